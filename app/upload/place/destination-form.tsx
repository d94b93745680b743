import { useEffect, useState } from 'react'
import { useFetcher } from 'react-router'
import { noKey } from '#core/delivery'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import type { Destination, KnownDestination } from '#server/deliveries'
import { useSite } from '../../document/site-context'
import { Button } from '../../parts/button'
import { count } from '../../parts/format'
import { StateMark } from '../../parts/state-mark'
import type { UploadAnswer } from '../answer'
import { acceptWords, HostKey } from './host-key'
import { noPlace, PlaceFields, PlaceLetter, type PlaceValues } from './place-fields'

interface Props {
  /** The destination to change; null for a new one. */
  readonly destination: Omit<Destination, 'listedAt'> | null
  readonly first: boolean
  /** Destinations of the account's other sites, to be made one like. */
  readonly known?: readonly KnownDestination[]
  /** Whether the practice host is offered. */
  readonly practice?: boolean
  readonly onDone: (id: string | null) => void
  readonly onCancel: (() => void) | null
}

interface Values extends PlaceValues {
  name: string
}

/** A destination, tested before it is saved; the host's key is shown and has to be accepted. */
export function DestinationForm({
  destination,
  first,
  known = [],
  practice = false,
  onDone,
  onCancel,
}: Props) {
  const { site } = useSite()
  const fetcher = useFetcher<UploadAnswer>()
  const [values, setValues] = useState<Values>(() =>
    destination
      ? { ...valuesOf(destination), folder: destination.folder, publicAddress: destination.publicAddress }
      : { name: '', ...noPlace },
  )
  /** One of another site that this one is made like. */
  const [like, setLike] = useState<KnownDestination | null>(null)
  const stored = destination ?? like
  /** Where the stored password and key are for: another place is asked for both again. */
  const samePlace =
    stored !== null &&
    values.protocol === stored.protocol &&
    values.host === stored.host &&
    values.port === String(stored.port) &&
    values.account === stored.account
  const set = (part: Partial<Values>) => setValues((was) => ({ ...was, ...part }))
  const makeLike = (one: KnownDestination) => {
    setLike(one)
    // Each site has a folder of its own.
    const own = nameLabel(site.name, defaultScheme, 'en').name || 'site'
    setValues({
      ...valuesOf(one),
      folder: [one.folder, own].filter((part) => part !== '').join('/'),
      publicAddress: `${one.publicAddress}${own}/`,
    })
  }
  /** The values a test was passed with; any change makes it void. */
  const [tested, setTested] = useState<string | null>(null)
  const fingerprint = JSON.stringify(values)
  const answer = fetcher.data
  const test = answer && 'test' in answer && tested === fingerprint ? answer.test : null
  const problem = answer && 'problem' in answer && fetcher.state === 'idle' ? answer.problem : null
  const busy = fetcher.state !== 'idle'
  const submit = (intent: string, more: Record<string, string> = {}) => {
    if (intent === 'test') setTested(fingerprint)
    void fetcher.submit(
      { intent, id: destination?.id ?? '', like: like?.id ?? '', ...values, ...more },
      { method: 'post' },
    )
  }
  useEffect(() => {
    if (fetcher.state !== 'idle' || !answer) return
    if ('saved' in answer) onDone(answer.saved ?? null)
    else if ('removed' in answer) onDone(null)
    // Once for each answer.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fetcher.state, answer])

  return (
    <form
      className="flex h-full flex-col overflow-auto px-7 pt-6"
      onSubmit={(event) => {
        event.preventDefault()
        if (test) submit('save', { hostKey: test.hostKey })
        // A key that was accepted before is looked for again; without one only the key is fetched.
        else submit('test', samePlace ? { hostKey: stored.hostKey } : {})
      }}
    >
      <h2 className="mb-2 text-[26px]">
        {destination
          ? `Change ${destination.name}`
          : first
            ? 'Where does this site go?'
            : 'Another destination'}
      </h2>
      {first && (
        <p className="mb-5 max-w-prose text-quiet">
          Enter what your web host told you. Nothing is sent yet: the connection is tested, and then you see
          what differs. You can also{' '}
          <a className="link" href="site.zip" download>
            take the site as a ZIP
          </a>
          .
        </p>
      )}
      {!destination && (practice || known.length > 0) && (
        <div className="mb-5 flex max-w-2xl flex-wrap items-center gap-x-5 gap-y-2 border-y border-rule py-3">
          {practice && (
            <Button disabled={busy} onClick={() => submit('practice')}>
              Use the practice host on this computer
            </Button>
          )}
          {known.map((one) => (
            <button key={one.id} type="button" className="link text-sm" onClick={() => makeLike(one)}>
              Like {one.name} of {one.siteName}
            </button>
          ))}
        </div>
      )}
      {!destination && (
        <PlaceLetter
          values={values}
          set={(part) => {
            // Some name it needs; its author may think of a better one.
            const name = values.name === '' && part.host ? { name: part.host } : {}
            set({ ...name, ...part })
          }}
        />
      )}
      <PlaceFields
        values={values}
        set={set}
        problemField={problem?.field ?? null}
        password={{
          required: !samePlace,
          placeholder: samePlace
            ? destination
              ? 'as before'
              : 'as there'
            : stored
              ? 'again, for another place'
              : undefined,
        }}
        first={
          <label className="col-span-3 block">
            <span className="text-quiet">Call it</span>
            <input
              className="field"
              name="name"
              required
              placeholder="Our web space"
              value={values.name}
              onChange={(event) => set({ name: event.target.value })}
              aria-invalid={problem?.field === 'name' || undefined}
              spellCheck={false}
            />
          </label>
        }
        isAddressNeeded
      />
      <div aria-live="polite" className="my-5 min-h-16 max-w-2xl grow">
        {problem && (
          <p role="alert" className="border-l-3 border-rubric bg-rubric-wash px-3 py-2">
            {problem.message}
          </p>
        )}
        {test && (
          <div className="border-l-3 border-verdigris bg-verdigris-wash px-3 py-2">
            <p>
              {test.fileCount === null ? (
                <StateMark state="done" word="The host answers" />
              ) : (
                <>
                  <StateMark state="done" word="The connection works" /> ·{' '}
                  {test.fileCount === 0
                    ? 'the folder is empty'
                    : `${count(test.fileCount, 'file')} there now`}
                </>
              )}
            </p>
            <p className="mt-1 text-sm">
              <HostKey hostKey={test.hostKey} protocol={values.protocol} />
              {destination && destination.hostKey !== test.hostKey && (
                <b className="text-rubric"> It is not what it showed before.</b>
              )}{' '}
              {test.fileCount !== null
                ? test.hostKey !== noKey && 'If the host ever shows another, nothing is sent.'
                : test.hostKey === noKey
                  ? 'The password has not been sent yet.'
                  : 'The password has not been sent yet; it goes to this host only, now and later.'}
            </p>
          </div>
        )}
        {busy && (
          <p className="text-quiet">
            {test
              ? `Signing in at ${values.host}, and trying to write, read and remove a small file…`
              : `Connecting to ${values.host}…`}
          </p>
        )}
      </div>
      {/* In view however long the form is: it is the next step. */}
      <div className="sticky bottom-0 -mx-7 flex gap-3 border-t border-rule bg-paper px-7 py-3">
        <Button type="submit" look="go" disabled={busy}>
          {!test ? 'Test the connection' : test.fileCount === null ? acceptWords(test.hostKey) : 'Save'}
        </Button>
        {onCancel && <Button onClick={onCancel}>Leave it</Button>}
        {destination && (
          <Button
            look="remove"
            className="ml-auto"
            disabled={busy}
            onClick={() => submit('remove')}
            title="Forgets the destination and its records here. Nothing is removed at the host."
          >
            Forget this destination
          </Button>
        )}
      </div>
    </form>
  )
}

const valuesOf = ({
  name,
  protocol,
  host,
  port,
  account,
}: Pick<Destination, 'name' | 'protocol' | 'host' | 'port' | 'account'>): Omit<
  Values,
  'folder' | 'publicAddress'
> => ({
  ...{ name, protocol, host, account },
  port: String(port),
  password: '',
})
