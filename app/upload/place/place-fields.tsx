import { isProtocol, type Protocol, protocols } from '#core/delivery'
import { Caution } from '../../parts/notice'
import { HostLetter } from './host-letter'

/** A place on a web host, as it is typed. */
export interface PlaceValues {
  protocol: string
  host: string
  port: string
  account: string
  signIn: string
  password: string
  privateKey: string
  passphrase: string
  folder: string
  publicAddress: string
}

export const noPlace: PlaceValues = {
  protocol: 'sftp',
  host: '',
  port: String(protocols.sftp.usualPort),
  account: '',
  signIn: 'password',
  password: '',
  privateKey: '',
  passphrase: '',
  folder: '',
  publicAddress: '',
}

/** What another protocol brings with it: a port that nobody chose goes with what is spoken. */
function withProtocol(values: PlaceValues, protocol: Protocol): Partial<PlaceValues> {
  const was = isProtocol(values.protocol) ? String(protocols[values.protocol].usualPort) : ''
  const isUsual = values.port === was || values.port === ''
  return { protocol, ...(isUsual && { port: String(protocols[protocol].usualPort) }) }
}

/** What a host wrote, from which the fields of a place are filled. */
export const PlaceLetter = ({
  values,
  set,
}: {
  values: PlaceValues
  set: (part: Partial<PlaceValues>) => void
}) => (
  <HostLetter
    onFound={({ port, protocol, ...found }) =>
      set({
        ...(protocol && withProtocol(values, protocol)),
        ...found,
        ...(port !== undefined && { port: String(port) }),
      })
    }
  />
)

/** The fields of a place on a web host. */
export function PlaceFields({
  values,
  set,
  problemField,
  password,
  first,
  signIn,
  isAddressNeeded,
}: {
  values: PlaceValues
  set: (part: Partial<PlaceValues>) => void
  /** The field that was not right. */
  problemField: string | null
  /** Whether the password is asked for, and what stands for it otherwise. */
  password: { readonly required: boolean; readonly placeholder?: string }
  /** What stands before the protocol. */
  first?: React.ReactNode
  /** What stands after the account where keys are taken, too: the choice, and what it asks for. */
  signIn?: React.ReactNode
  isAddressNeeded: boolean
}) {
  const field = (
    name: keyof PlaceValues,
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
        onChange={(event) => set({ [name]: event.target.value })}
        aria-invalid={problemField === name || undefined}
        spellCheck={false}
      />
      {hint && <span className="block text-sm text-quiet">{hint}</span>}
    </label>
  )
  return (
    <div className="grid max-w-2xl grid-cols-6 gap-x-6 gap-y-4">
      {first}
      <label className={`block ${first ? 'col-span-3' : 'col-span-6'}`}>
        <span className="text-quiet">Protocol</span>
        <select
          className="field"
          name="protocol"
          value={values.protocol}
          onChange={(event) => set(withProtocol(values, event.target.value as Protocol))}
        >
          {Object.entries(protocols).map(([protocol, { title }]) => (
            <option key={protocol} value={protocol}>
              {title}
            </option>
          ))}
        </select>
      </label>
      {values.protocol === 'ftp' && (
        <Caution className="col-span-6">
          FTP sends the password and all pages so that anybody on the way can read them. Use it only where
          your host offers nothing else, with a password that you use nowhere else.
        </Caution>
      )}
      {field('host', 'Host', { className: 'col-span-4', required: true, placeholder: 'sftp.example.org' })}
      {field('port', 'Port', { className: 'col-span-2', required: true, inputMode: 'numeric' })}
      {field('account', 'Account', { className: 'col-span-3', required: true, autoComplete: 'off' })}
      {signIn}
      {(values.signIn === 'password' || values.protocol !== 'sftp') &&
        field('password', 'Password', {
          className: 'col-span-3',
          type: 'password',
          autoComplete: 'new-password',
          ...password,
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
        { className: 'col-span-3', required: isAddressNeeded, placeholder: 'https://www.example.org/' },
        isAddressNeeded
          ? 'Where that folder is shown'
          : 'Where that folder is shown; with it, the site can be sent back there',
      )}
    </div>
  )
}
