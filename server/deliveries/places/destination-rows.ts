import { many, maybeOne, type Queryable } from '#server/platform'

/** A destination as it is shown; its password never leaves the server. */
export interface Destination {
  readonly id: string
  readonly siteId: string
  readonly name: string
  /** What is spoken there, one of `transports`. */
  readonly protocol: string
  readonly host: string
  readonly port: number
  readonly account: string
  readonly folder: string
  readonly publicAddress: string
  readonly hostKey: string
  readonly listedAt: Date | null
  /** Minutes without a change after which the site goes there by itself; null for never. */
  readonly byItselfMinutes: number | null
}

const destinationColumns = `d.id, d.site_id AS "siteId", d.name, d.protocol, d.host, d.port, d.account, d.folder,
  d.public_address AS "publicAddress", d.host_key AS "hostKey", d.listed_at AS "listedAt",
  d.by_itself_minutes AS "byItselfMinutes"`

export const listDestinations = (db: Queryable, siteId: string): Promise<Destination[]> =>
  many<Destination>(
    db,
    `SELECT ${destinationColumns} FROM destinations d WHERE d.site_id = $1 ORDER BY d.created_at, d.id`,
    [siteId],
  )

/** A destination of another site of the account, as one that is known already. */
export interface KnownDestination extends Pick<
  Destination,
  'id' | 'name' | 'protocol' | 'host' | 'port' | 'account' | 'folder' | 'publicAddress' | 'hostKey'
> {
  readonly siteName: string
}

/** Destinations of an account's other sites, one a place, those that were made last in front. */
export const listKnownDestinations = (
  db: Queryable,
  accountId: string,
  siteId: string,
): Promise<KnownDestination[]> =>
  many<KnownDestination>(
    db,
    `SELECT * FROM (
       SELECT DISTINCT ON (d.protocol, d.host, d.port, d.account) d.id, d.name, d.protocol, d.host, d.port, d.account,
         d.folder, d.public_address AS "publicAddress", d.host_key AS "hostKey", s.name AS "siteName", d.created_at
       FROM destinations d JOIN sites s ON s.id = d.site_id
       WHERE s.account_id = $1 AND s.id <> $2
         AND NOT EXISTS (SELECT 1 FROM destinations o WHERE o.site_id = $2
           AND (o.protocol, o.host, o.port, o.account) = (d.protocol, d.host, d.port, d.account))
       ORDER BY d.protocol, d.host, d.port, d.account, d.created_at DESC
     ) AS known ORDER BY created_at DESC LIMIT 20`,
    [accountId, siteId],
  )

/** A destination of any site of an account, or null. */
export const findKnownDestination = (db: Queryable, id: string, accountId: string) =>
  maybeOne<Destination & { passwordSealed: Buffer }>(
    db,
    `SELECT ${destinationColumns}, d.password_sealed AS "passwordSealed" FROM destinations d
     JOIN sites s ON s.id = d.site_id WHERE d.id = $1 AND s.account_id = $2`,
    [id, accountId],
  )

/** A destination of an account's site, or null. */
export const findDestination = (db: Queryable, id: string, siteId: string, accountId: string) =>
  maybeOne<Destination & { passwordSealed: Buffer }>(
    db,
    `SELECT ${destinationColumns}, d.password_sealed AS "passwordSealed" FROM destinations d
     JOIN sites s ON s.id = d.site_id WHERE d.id = $1 AND d.site_id = $2 AND s.account_id = $3`,
    [id, siteId, accountId],
  )

export interface DestinationValues {
  readonly id: string
  readonly name: string
  readonly protocol: string
  readonly host: string
  readonly port: number
  readonly account: string
  readonly passwordSealed: Buffer
  readonly folder: string
  readonly publicAddress: string
  readonly hostKey: string
}

/** What both writing statements set, in this order from $2 on. */
const valueColumns = 'name, protocol, host, port, account, password_sealed, folder, public_address, host_key'
const valuesOf = (values: DestinationValues) => [
  values.name,
  values.protocol,
  values.host,
  values.port,
  values.account,
  values.passwordSealed,
  values.folder,
  values.publicAddress,
  values.hostKey,
]

export async function insertDestination(
  db: Queryable,
  siteId: string,
  values: DestinationValues,
): Promise<void> {
  await db.query(
    `INSERT INTO destinations (id, site_id, ${valueColumns}) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
    [values.id, siteId, ...valuesOf(values)],
  )
}

/** Changes a destination. Another host or folder is another place: what was recorded of the old one goes. */
export async function updateDestination(db: Queryable, values: DestinationValues): Promise<void> {
  const { id } = values
  const was = await maybeOne<{ host: string; port: number; account: string; folder: string }>(
    db,
    'SELECT host, port, account, folder FROM destinations WHERE id = $1 FOR UPDATE',
    [id],
  )
  const samePlace =
    was && (['host', 'port', 'account', 'folder'] as const).every((field) => was[field] === values[field])
  if (!samePlace) {
    await db.query('DELETE FROM delivered_files WHERE destination_id = $1', [id])
    await db.query('DELETE FROM listed_files WHERE destination_id = $1', [id])
    await db.query('DELETE FROM delivered_addresses WHERE destination_id = $1', [id])
    await db.query('UPDATE deliveries SET elsewhere = true WHERE destination_id = $1', [id])
  }
  await db.query(
    `UPDATE destinations SET (${valueColumns}) = ($2, $3, $4, $5, $6, $7, $8, $9, $10),
       listed_at = CASE WHEN $11 THEN listed_at END WHERE id = $1`,
    [id, ...valuesOf(values), Boolean(samePlace)],
  )
}

export async function deleteDestination(db: Queryable, id: string): Promise<void> {
  await db.query('DELETE FROM destinations WHERE id = $1', [id])
}
