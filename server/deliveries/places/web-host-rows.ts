import type { HostTraits } from '#core/delivery'
import { many, maybeOne, type Queryable } from '#server/platform'

/** How an account signs in: with a password, with the key that was made for it here, or with one of its own. */
export type SignIn = 'password' | 'made-key' | 'own-key'

/** What tells one place to sign in at from another. */
export interface HostPlace {
  /** What is spoken there, one of `transports`. */
  readonly protocol: string
  readonly host: string
  readonly port: number
  readonly account: string
}

export interface WebHost extends HostPlace {
  readonly id: string
  readonly signIn: SignIn
  readonly hostKey: string
  readonly secretSealed: Buffer
}

/** The web host of an account at a place, or null. */
export const findWebHost = (
  db: Queryable,
  accountId: string,
  { protocol, host, port, account }: HostPlace,
): Promise<WebHost | null> =>
  maybeOne<WebHost>(
    db,
    `SELECT id, protocol, host, port, account, sign_in AS "signIn", host_key AS "hostKey", secret_sealed AS "secretSealed"
     FROM web_hosts WHERE account_id = $1 AND (protocol, host, port, account) = ($2, $3, $4, $5)`,
    [accountId, protocol, host, port, account],
  )

/** Those that are found out at a site's public address, as arguments of `jsonb_build_object`. */
const seenTraits = (['showsHome', 'addsSlash'] satisfies (keyof HostTraits)[])
  .map((name) => `'${name}', web_hosts.traits -> '${name}'`)
  .join(', ')

/**
 * Writes a web host: what it says is so for all destinations there.
 * @param traits what it showed when it was tried, in place of what was known before, but for what only visitors see;
 * null keeps that
 */
export async function putWebHost(
  db: Queryable,
  accountId: string,
  values: WebHost,
  traits: HostTraits | null = null,
): Promise<void> {
  await db.query(
    `INSERT INTO web_hosts (id, account_id, protocol, host, port, account, sign_in, host_key, secret_sealed, traits)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, coalesce($10::jsonb, '{}'))
     ON CONFLICT (id) DO UPDATE SET sign_in = excluded.sign_in, host_key = excluded.host_key,
       secret_sealed = excluded.secret_sealed, traits = CASE WHEN $10::jsonb IS NULL THEN web_hosts.traits
         ELSE jsonb_strip_nulls(jsonb_build_object(${seenTraits})) || $10::jsonb END`,
    [
      values.id,
      accountId,
      values.protocol,
      values.host,
      values.port,
      values.account,
      values.signIn,
      values.hostKey,
      values.secretSealed,
      traits && JSON.stringify(traits),
    ],
  )
}

/** What is known of the web host that a destination is at. */
export async function traitsOf(db: Queryable, destinationId: string): Promise<HostTraits> {
  const found = await maybeOne<{ traits: HostTraits }>(
    db,
    'SELECT w.traits FROM web_hosts w JOIN destinations d ON d.web_host_id = w.id WHERE d.id = $1',
    [destinationId],
  )
  return found?.traits ?? {}
}

/** The same, by a destination that is there. */
export const noteTraitsOf = (db: Queryable, destinationId: string, traits: HostTraits): Promise<unknown> =>
  db.query(
    'UPDATE web_hosts SET traits = traits || $2 WHERE id = (SELECT web_host_id FROM destinations WHERE id = $1)',
    [destinationId, JSON.stringify(traits)],
  )

/** Adds to what is known of a web host what it showed. */
export async function noteTraits(db: Queryable, webHostId: string, traits: HostTraits): Promise<void> {
  await db.query('UPDATE web_hosts SET traits = traits || $2 WHERE id = $1', [
    webHostId,
    JSON.stringify(traits),
  ])
}

/**
 * Forgets web hosts at which no site is any more, with how one signs in there.
 * @param accountId null for those of all accounts, whose sites may have gone otherwise
 */
export async function deleteUnusedWebHosts(db: Queryable, accountId: string | null): Promise<void> {
  await db.query(
    `DELETE FROM web_hosts w WHERE ($1::uuid IS NULL OR account_id = $1)
       AND NOT EXISTS (SELECT 1 FROM destinations d WHERE d.web_host_id = w.id)`,
    [accountId],
  )
}

/** A web host that another site of the account goes to, with the folder it uses there. */
export interface KnownHost extends HostPlace {
  readonly id: string
  readonly signIn: SignIn
  readonly hostKey: string
  /** What the latest destination there is called, and of which site it is. */
  readonly name: string
  readonly siteName: string
  readonly folder: string
  readonly publicAddress: string
}

/** Web hosts of an account at which a site is not yet, those that were used last in front. */
export const listKnownHosts = (db: Queryable, accountId: string, siteId: string): Promise<KnownHost[]> =>
  many<KnownHost>(
    db,
    `SELECT * FROM (
       SELECT DISTINCT ON (w.id) w.id, w.protocol, w.host, w.port, w.account, w.sign_in AS "signIn",
         w.host_key AS "hostKey", d.name, s.name AS "siteName", d.folder, d.public_address AS "publicAddress", d.created_at
       FROM web_hosts w JOIN destinations d ON d.web_host_id = w.id JOIN sites s ON s.id = d.site_id
       WHERE w.account_id = $1 AND NOT EXISTS (
         SELECT 1 FROM destinations o WHERE o.site_id = $2 AND o.web_host_id = w.id)
       ORDER BY w.id, d.created_at DESC
     ) AS known ORDER BY created_at DESC LIMIT 20`,
    [accountId, siteId],
  )
