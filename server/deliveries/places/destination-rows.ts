import type { HostTraits } from '#core/delivery'
import { many, maybeOne, type Queryable } from '#server/platform'
import { requireRight, roleIn } from '#server/sites'
import type { HostPlace, SignIn } from './web-host-rows'

/** A site's folder at a web host, as it is shown; what signs in there never leaves the server. */
export interface Destination extends HostPlace {
  readonly id: string
  readonly siteId: string
  readonly name: string
  readonly webHostId: string
  readonly signIn: SignIn
  readonly folder: string
  readonly publicAddress: string
  readonly hostKey: string
  /** What was found out about the web host. */
  readonly traits: HostTraits
  readonly listedAt: Date | null
  /** Minutes without a change after which the site goes there by itself; null for never. */
  readonly byItselfMinutes: number | null
  /** Destinations of other sites at the same web host. */
  readonly otherCount: number
}

/** A destination with what opens it. */
export interface StoredDestination extends Destination {
  readonly secretSealed: Buffer
  readonly accountId: string
}

const destinationColumns = `d.id, d.site_id AS "siteId", d.name, d.web_host_id AS "webHostId", w.protocol, w.host, w.port,
  w.account, w.sign_in AS "signIn", w.host_key AS "hostKey", w.traits, d.folder, d.public_address AS "publicAddress",
  d.listed_at AS "listedAt", d.by_itself_minutes AS "byItselfMinutes",
  (SELECT count(*)::int FROM destinations o WHERE o.web_host_id = w.id AND o.id <> d.id) AS "otherCount"`
const withHost = 'destinations d JOIN web_hosts w ON w.id = d.web_host_id'

export const listDestinations = (db: Queryable, siteId: string): Promise<Destination[]> =>
  many<Destination>(
    db,
    `SELECT ${destinationColumns} FROM ${withHost} WHERE d.site_id = $1 ORDER BY d.created_at, d.id`,
    [siteId],
  )

/** A destination of a site that an account may deliver, or null. @throws Problem `no-right` */
export async function findDestination(
  db: Queryable,
  id: string,
  siteId: string,
  accountId: string,
): Promise<StoredDestination | null> {
  const role = await roleIn(db, siteId, accountId)
  if (!role) return null
  requireRight(role, 'deliver')
  return maybeOne<StoredDestination>(
    db,
    `SELECT ${destinationColumns}, w.secret_sealed AS "secretSealed", w.account_id AS "accountId" FROM ${withHost}
     WHERE d.id = $1 AND d.site_id = $2`,
    [id, siteId],
  )
}

export interface DestinationValues {
  readonly id: string
  readonly webHostId: string
  readonly name: string
  readonly folder: string
  readonly publicAddress: string
}

export async function insertDestination(
  db: Queryable,
  siteId: string,
  { id, webHostId, name, folder, publicAddress }: DestinationValues,
): Promise<void> {
  await db.query(
    'INSERT INTO destinations (id, site_id, web_host_id, name, folder, public_address) VALUES ($1, $2, $3, $4, $5, $6)',
    [id, siteId, webHostId, name, folder, publicAddress],
  )
}

interface Place {
  readonly host: string
  readonly port: number
  readonly account: string
  readonly folder: string
}

/** Changes a destination. Another host or folder is another place: what was recorded of the old one goes. */
export async function updateDestination(db: Queryable, values: DestinationValues): Promise<void> {
  const { id, webHostId, name, folder, publicAddress } = values
  const placeOf = (hostId: string, of: string) =>
    maybeOne<Place>(
      db,
      'SELECT w.host, w.port, w.account, $2::text AS folder FROM web_hosts w WHERE w.id = $1',
      [hostId, of],
    )
  const stood = await maybeOne<{ webHostId: string; folder: string }>(
    db,
    'SELECT web_host_id AS "webHostId", folder FROM destinations WHERE id = $1 FOR UPDATE',
    [id],
  )
  const was = stood && (await placeOf(stood.webHostId, stood.folder))
  const now = await placeOf(webHostId, folder)
  const samePlace =
    was && now && (['host', 'port', 'account', 'folder'] as const).every((field) => was[field] === now[field])
  if (!samePlace) {
    await db.query('DELETE FROM delivered_files WHERE destination_id = $1', [id])
    await db.query('DELETE FROM listed_files WHERE destination_id = $1', [id])
    await db.query('DELETE FROM delivered_addresses WHERE destination_id = $1', [id])
    await db.query('UPDATE deliveries SET elsewhere = true WHERE destination_id = $1', [id])
  }
  await db.query(
    `UPDATE destinations SET (web_host_id, name, folder, public_address) = ($2, $3, $4, $5),
       listed_at = CASE WHEN $6 THEN listed_at END WHERE id = $1`,
    [id, webHostId, name, folder, publicAddress, Boolean(samePlace)],
  )
}

export async function deleteDestination(db: Queryable, id: string): Promise<void> {
  await db.query('DELETE FROM destinations WHERE id = $1', [id])
}
