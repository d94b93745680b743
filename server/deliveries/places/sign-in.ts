import ssh2 from 'ssh2'
import { Problem } from '#core/problems'
import { maybeOne, pool, seal, unseal } from '#server/platform'
import type { PrivateKey } from '../transfer/transport'
import type { HostPlace, SignIn, WebHost } from './web-host-rows'

/** What shows a host that an account is itself. */
export interface Credentials {
  readonly password: string
  readonly privateKey: PrivateKey | null
}

/** What an author says of how to sign in; what is null is taken from what is known of the place. */
export interface SignInForm {
  readonly signIn?: SignIn
  readonly password: string | null
  /** A private key in PEM or OpenSSH's form. */
  readonly privateKey?: string | null
  readonly passphrase?: string
}

/** What a secret is sealed for: it opens for no other host, port or account, and in no other protocol. */
export const sealedFor = (place: HostPlace & { readonly id: string }): string =>
  [
    'destination',
    place.id,
    place.host,
    place.port,
    place.account,
    // From before there were others.
    ...(place.protocol === 'sftp' ? [] : [place.protocol]),
  ].join('\n')

/** What the key of an account is sealed for. */
export const accountKeyUse = (accountId: string): string => `account-key\n${accountId}`

const findKey = (accountId: string) =>
  maybeOne<{ publicKey: string; privateSealed: Buffer }>(
    pool(),
    'SELECT public_key AS "publicKey", private_sealed AS "privateSealed" FROM account_keys WHERE account_id = $1',
    [accountId],
  )

/** A pair of keys in OpenSSH's form. About 3 of 1,000 that the library makes it cannot read itself: those are made again. */
function makeKey(): { readonly public: string; readonly private: string } {
  for (;;) {
    const made = ssh2.utils.generateKeyPairSync('ed25519', { comment: 'rubricant' })
    if (!(ssh2.utils.parseKey(made.private) instanceof Error)) return made
  }
}

/**
 * The key of an account (Ed25519, RFC 8709), made when it is first asked for.
 * @returns its public half as a host's list of keys holds it
 */
export async function publicKeyOf(accountId: string): Promise<string> {
  const known = await findKey(accountId)
  if (known) return known.publicKey
  const made = makeKey()
  await pool().query(
    'INSERT INTO account_keys (account_id, public_key, private_sealed) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
    [accountId, made.public, seal(made.private, accountKeyUse(accountId))],
  )
  // Another request may have made it first.
  return (await findKey(accountId))!.publicKey
}

/** Whether a private key can be read with its passphrase. @throws Problem `bad-key`, `key-passphrase` */
function checkKey({ key, passphrase }: PrivateKey): void {
  const read = ssh2.utils.parseKey(key, passphrase)
  if (!(read instanceof Error)) {
    const [first] = Array.isArray(read) ? read : [read]
    if (first?.isPrivateKey()) return
    throw new Problem('bad-key', null, { detail: { field: 'privateKey' } })
  }
  if (/passphrase|decrypt|integrity|cipher/i.test(read.message))
    throw new Problem('key-passphrase', null, { detail: { field: 'passphrase' } })
  throw new Problem('bad-key', null, { detail: { field: 'privateKey' } })
}

/** What a web host's secret holds. */
export async function credentialsOf(host: WebHost, accountId: string): Promise<Credentials> {
  if (host.signIn === 'made-key') {
    const known = await findKey(accountId)
    if (!known) throw new Problem('no-key')
    return { password: '', privateKey: { key: unseal(known.privateSealed, accountKeyUse(accountId)) } }
  }
  const secret = unseal(host.secretSealed, sealedFor(host))
  if (host.signIn === 'password') return { password: secret, privateKey: null }
  return { password: '', privateKey: JSON.parse(secret) as PrivateKey }
}

/** The secret of a web host, as it is sealed. */
export const secretText = ({ password, privateKey }: Credentials, signIn: SignIn): string =>
  signIn === 'password' ? password : signIn === 'own-key' ? JSON.stringify(privateKey) : ''

/**
 * What an author signs in with: what was typed, else what is known of this very place.
 * @param known the account's web host at the place, if it has one
 * @param isElsewhere whether something is known of another place that the author may think of
 * @throws Problem `no-password`, `password-again`, `no-key`, `bad-key`, `key-passphrase`
 */
export async function credentialsFrom(
  { signIn = 'password', password, privateKey = null, passphrase = '' }: SignInForm,
  accountId: string,
  known: WebHost | null,
  isElsewhere: boolean,
): Promise<Credentials> {
  if (signIn === 'made-key') {
    await publicKeyOf(accountId)
    const { privateSealed } = (await findKey(accountId))!
    return { password: '', privateKey: { key: unseal(privateSealed, accountKeyUse(accountId)) } }
  }
  if (signIn === 'own-key' && privateKey !== null) {
    const key: PrivateKey = { key: privateKey, ...(passphrase !== '' && { passphrase }) }
    checkKey(key)
    return { password: '', privateKey: key }
  }
  if (signIn === 'password' && password !== null) return { password, privateKey: null }
  if (known?.signIn === signIn) return credentialsOf(known, accountId)
  if (signIn === 'own-key') throw new Problem('no-key', null, { detail: { field: 'privateKey' } })
  throw new Problem(isElsewhere ? 'password-again' : 'no-password', null, { detail: { field: 'password' } })
}
