import { useEffect, useState } from 'react'
import { useFetcher } from 'react-router'
import { isProtocol, noKey, ownFolder, protocols } from '#core/delivery'
import type { Destination, KnownHost } from '#server/deliveries'
import { useSite } from '../../document/site-context'
import { Button } from '../../parts/button'
import { count } from '../../parts/format'
import { StateMark } from '../../parts/state-mark'
import type { UploadAnswer } from '../answer'
import { TakeZip } from '../take-zip'
import { acceptWords, HostKey } from './host-key'
import { noPlace, PlaceFields, PlaceLetter, type PlaceValues } from './place-fields'
import { SignInFields } from './sign-in-fields'
import { useFindWay } from './use-find-way'
import { Refusal } from '../../parts/notice'

interface Props {
  /** The destination to change; null for a new one. */
  readonly destination: Omit<Destination, 'listedAt'> | null
  readonly first: boolean
  /** Web hosts that other sites of the account go to. */
  readonly known?: readonly KnownHost[]
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
  /** Where what signs in is stored already: this destination's host, or that of another site at the same place. */
  const stored = [destination, ...known].find(
    (one) =>
      one !== null &&
      values.protocol === one.protocol &&
      values.host === one.host &&
      values.port === String(one.port) &&
      values.account === one.account,
  )
  const isStored = stored?.signIn === values.signIn
  const set = (part: Partial<Values>) => setValues((was) => ({ ...was, ...part }))
  /** The values a test was passed with; any change makes it void. */
  const [tested, setTested] = useState<string | null>(null)
  const fingerprint = JSON.stringify(values)
  const answer = fetcher.data
  const test = answer && 'test' in answer && tested === fingerprint ? answer.test : null
  const problem = answer && 'problem' in answer && fetcher.state === 'idle' ? answer.problem : null
  const busy = fetcher.state !== 'idle'
  const submit = (intent: string, more: Record<string, string> = {}, with_ = values) => {
    if (intent === 'test') setTested(JSON.stringify(with_))
    void fetcher.submit({ intent, id: destination?.id ?? '', ...with_, ...more }, { method: 'post' })
  }
  const { finding, findProtocol, findFolder, cancel } = useFindWay(site.id)
  const isFinding = finding.state === 'finding'
  const hostKey = test?.hostKey ?? stored?.hostKey ?? null

  async function lookWhatItSpeaks() {
    const found = await findProtocol({
      host: values.host,
      port: values.port === '' ? null : Number(values.port),
    })
    if (!found) return
    const next = { ...values, protocol: found.protocol, port: String(found.port) }
    setValues(next)
    submit('test', {}, next)
  }

  async function lookForFolder() {
    const found = await findFolder({ ...values, id: destination?.id ?? '', hostKey: hostKey ?? '' })
    if (!found) return
    const next = { ...values, folder: found.folder }
    setValues(next)
    // The host and its key are the same: only where in it changes.
    if (test) setTested(JSON.stringify(next))
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
        else submit('test', stored && isStored ? { hostKey: stored.hostKey } : {})
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
          <TakeZip
            siteId={site.id}
            className="link"
            words="take the site as a ZIP"
            wordsOfFolder="take the site as a ZIP, or into a folder"
          />
          .
        </p>
      )}
      {!destination && (practice || known.length > 0) && (
        <div className="mb-5 grid max-w-2xl gap-2.5 border-y border-rule py-3">
          {known.map((one) => (
            <Known
              key={one.id}
              host={one}
              siteName={site.name}
              isBusy={busy}
              onUse={() => submit('use-host', { id: one.id })}
              onFill={() => setValues({ ...valuesOf(one), ...ownFolder(one, site.name) })}
            />
          ))}
          {practice && (
            <span>
              <Button disabled={busy} onClick={() => submit('practice')}>
                Use the practice host on this computer
              </Button>
            </span>
          )}
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
          required: !isStored,
          placeholder: isStored
            ? destination
              ? 'as before'
              : 'as there'
            : destination
              ? 'again, for another place'
              : undefined,
        }}
        signIn={
          <SignInFields values={values} set={set} problemField={problem?.field ?? null} isKnown={isStored} />
        }
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
      <div className="mt-3 flex max-w-2xl flex-wrap items-center gap-x-5 gap-y-2 text-sm">
        {isFinding ? (
          <>
            <span role="status" className="text-quiet">
              {finding.what === 'protocol'
                ? `Trying what ${values.host} speaks, the safest first…`
                : finding.all === 0
                  ? `Looking into the folders at ${values.host}…`
                  : `Putting a small file into each folder and asking for it: ${finding.done} of ${finding.all}`}
            </span>
            <button type="button" className="link" onClick={cancel}>
              Cancel
            </button>
          </>
        ) : (
          <>
            <button
              type="button"
              className="link disabled:text-quiet disabled:no-underline"
              disabled={values.host === '' || busy}
              onClick={() => void lookWhatItSpeaks()}
            >
              Find out what the host speaks
            </button>
            <button
              type="button"
              className="link disabled:text-quiet disabled:no-underline"
              disabled={hostKey === null || values.publicAddress === '' || busy}
              title={
                hostKey === null
                  ? 'Test the connection first: then its key is known, and is accepted by this.'
                  : 'Accepts the key, signs in, and puts a small file into each folder that may be it; all are removed again.'
              }
              onClick={() => void lookForFolder()}
            >
              Find the folder visitors see
            </button>
          </>
        )}
      </div>
      {destination && destination.otherCount > 0 && (
        <p className="mt-3 max-w-2xl text-sm text-quiet">
          {count(destination.otherCount, 'other destination')} of yours{' '}
          {destination.otherCount === 1 ? 'goes' : 'go'} to this host with this account; a new password is
          theirs, too.
        </p>
      )}
      <div aria-live="polite" className="my-5 min-h-16 max-w-2xl grow">
        {finding.state === 'idle' && finding.problem && <Refusal className="mb-3">{finding.problem}</Refusal>}
        {problem && <Refusal>{problem.message}</Refusal>}
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
                  : values.signIn === 'password'
                    ? 'The password has not been sent yet; it goes to this host only, now and later.'
                    : 'Nothing has been signed yet; the key signs in at this host only.'}
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
        <Button type="submit" look="go" disabled={busy || isFinding}>
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

/** A web host that another site goes to, used with one click, in a folder of this site's own. */
function Known({
  host,
  siteName,
  isBusy,
  onUse,
  onFill,
}: {
  host: KnownHost
  siteName: string
  isBusy: boolean
  onUse: () => void
  onFill: () => void
}) {
  const { folder } = ownFolder(host, siteName)
  const spoken = isProtocol(host.protocol) ? protocols[host.protocol].title : host.protocol
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <Button disabled={isBusy} onClick={onUse}>
        Use {host.name}
      </Button>
      <span className="text-sm text-quiet">
        {spoken} to <span className="font-mono text-[12.5px]">{host.host}</span>, where {host.siteName} is;
        this site in <span className="font-mono text-[12.5px]">{folder}</span>,{' '}
        <button type="button" className="link" disabled={isBusy} onClick={onFill}>
          or elsewhere there
        </button>
      </span>
    </div>
  )
}

const valuesOf = ({
  name,
  protocol,
  host,
  port,
  account,
  signIn,
}: Pick<Destination, 'name' | 'protocol' | 'host' | 'port' | 'account' | 'signIn'>): Omit<
  Values,
  'folder' | 'publicAddress'
> => ({
  ...noPlace,
  ...{ name, protocol, host, account, signIn },
  port: String(port),
})
