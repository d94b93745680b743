import { useEffect, useState } from 'react'
import { useFetcher } from 'react-router'
import type { Destination } from '#server/deliveries'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import { StateMark } from '../parts/state-mark'
import type { UploadAnswer } from './answer'

interface Props {
  /** The destination to change; null for a new one. */
  readonly destination: Omit<Destination, 'listedAt'> | null
  readonly first: boolean
  readonly onDone: (id: string | null) => void
  readonly onCancel: (() => void) | null
}

interface Values {
  name: string
  host: string
  port: string
  account: string
  password: string
  folder: string
  publicAddress: string
}

/** A destination, tested before it is saved; the host's key is shown and has to be accepted. */
export function DestinationForm({ destination, first, onDone, onCancel }: Props) {
  const fetcher = useFetcher<UploadAnswer>()
  const [values, setValues] = useState<Values>({
    name: destination?.name ?? '',
    host: destination?.host ?? '',
    port: String(destination?.port ?? 22),
    account: destination?.account ?? '',
    password: '',
    folder: destination?.folder ?? '',
    publicAddress: destination?.publicAddress ?? '',
  })
  /** Where the stored password and key are for: another place is asked for both again. */
  const samePlace =
    destination !== null &&
    values.host === destination.host &&
    values.port === String(destination.port) &&
    values.account === destination.account
  /** The values a test was passed with; any change makes it void. */
  const [tested, setTested] = useState<string | null>(null)
  const fingerprint = JSON.stringify(values)
  const answer = fetcher.data
  const test = answer && 'test' in answer && tested === fingerprint ? answer.test : null
  const problem = answer && 'problem' in answer && fetcher.state === 'idle' ? answer.problem : null
  const busy = fetcher.state !== 'idle'
  const submit = (intent: string, more: Record<string, string> = {}) => {
    if (intent === 'test') setTested(fingerprint)
    void fetcher.submit({ intent, id: destination?.id ?? '', ...values, ...more }, { method: 'post' })
  }
  useEffect(() => {
    if (fetcher.state !== 'idle' || !answer) return
    if ('saved' in answer) onDone(answer.saved ?? null)
    else if ('removed' in answer) onDone(null)
    // Once for each answer.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fetcher.state, answer])

  const field = (
    name: keyof Values,
    label: string,
    props: React.InputHTMLAttributes<HTMLInputElement> = {},
    hint?: string,
  ) => (
    <label className={`block ${props.className ?? ''}`}>
      <span className="text-quiet">{label}</span>
      <input
        {...props}
        className="field"
        name={name}
        value={values[name]}
        onChange={(event) => setValues({ ...values, [name]: event.target.value })}
        aria-invalid={problem?.field === name || undefined}
        spellCheck={false}
      />
      {hint && <span className="block text-sm text-quiet">{hint}</span>}
    </label>
  )
  return (
    <form
      className="h-full overflow-auto px-7 pt-6 pb-8"
      onSubmit={(event) => {
        event.preventDefault()
        if (test) submit('save', { hostKey: test.hostKey })
        // A key that was accepted before is looked for again; without one only the key is fetched.
        else submit('test', samePlace ? { hostKey: destination.hostKey } : {})
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
      <div className="grid max-w-2xl grid-cols-6 gap-x-6 gap-y-4">
        {field('name', 'Call it', { className: 'col-span-6', required: true, placeholder: 'Our web space' })}
        {field('host', 'Host', { className: 'col-span-4', required: true, placeholder: 'sftp.example.org' })}
        {field('port', 'Port', { className: 'col-span-2', required: true, inputMode: 'numeric' })}
        {field('account', 'Account', { className: 'col-span-3', required: true, autoComplete: 'off' })}
        {field('password', 'Password', {
          className: 'col-span-3',
          type: 'password',
          autoComplete: 'new-password',
          required: !samePlace,
          placeholder: samePlace ? 'as before' : destination ? 'again, for another place' : undefined,
        })}
        {field(
          'folder',
          'Folder',
          { className: 'col-span-3', placeholder: 'public' },
          'The folder that visitors see, as the account sees it',
        )}
        {field(
          'publicAddress',
          'Public address',
          { className: 'col-span-3', required: true, placeholder: 'https://www.example.org/' },
          'Where that folder is shown',
        )}
      </div>
      <div aria-live="polite" className="my-5 min-h-16 max-w-2xl">
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
              The host’s key is <span className="font-mono text-[12.5px] break-all">{test.hostKey}</span>
              {destination && destination.hostKey !== test.hostKey && (
                <b className="text-rubric"> — not the key it had before</b>
              )}
              .{' '}
              {test.fileCount === null
                ? 'Compare it with what your host told you. The password has not been sent yet; it goes to this key only, now and later.'
                : 'If the host ever shows another, nothing is sent.'}
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
      <div className="flex gap-3">
        <Button type="submit" look="go" disabled={busy}>
          {!test ? 'Test the connection' : test.fileCount === null ? 'Accept the key and save' : 'Save'}
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
