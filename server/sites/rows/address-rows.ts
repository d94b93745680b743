import { many, type Queryable } from '#server/platform'

/** Addresses of a site's pages that are out in the world, by page, over all its destinations. */
export async function listAddresses(db: Queryable, siteId: string): Promise<Record<string, string[]>> {
  const rows = await many<{ pageId: string; paths: string[] }>(
    db,
    `SELECT page_id AS "pageId", array_agg(DISTINCT path) AS paths FROM (
       SELECT a.page_id, a.path FROM delivered_addresses a JOIN destinations d ON d.id = a.destination_id
       WHERE d.site_id = $1 AND NOT a.given_up
       UNION ALL SELECT page_id, path FROM brought_addresses WHERE site_id = $1 AND NOT given_up
     ) known GROUP BY page_id`,
    [siteId],
  )
  return Object.fromEntries(rows.map(({ pageId, paths }) => [pageId, paths]))
}

/** Gives addresses of pages up, or takes that back. */
export async function markAddresses(
  db: Queryable,
  siteId: string,
  addresses: readonly { readonly pageId: string; readonly path: string }[],
  givenUp: boolean,
): Promise<void> {
  if (addresses.length === 0) return
  await db.query(
    `UPDATE delivered_addresses a SET given_up = $3
     FROM jsonb_to_recordset($2) AS t("pageId" uuid, path text), destinations d
     WHERE d.id = a.destination_id AND d.site_id = $1 AND a.page_id = t."pageId" AND a.path = t.path`,
    [siteId, JSON.stringify(addresses), givenUp],
  )
  await db.query(
    `UPDATE brought_addresses a SET given_up = $3 FROM jsonb_to_recordset($2) AS t("pageId" uuid, path text)
     WHERE a.site_id = $1 AND a.page_id = t."pageId" AND a.path = t.path`,
    [siteId, JSON.stringify(addresses), givenUp],
  )
}

/** Keeps addresses that are out in the world of pages that come from elsewhere: from an archive, or as they were made by hand. */
export async function bringAddresses(
  db: Queryable,
  siteId: string,
  addresses: readonly { readonly pageId: string; readonly path: string }[],
): Promise<void> {
  if (addresses.length === 0) return
  await db.query(
    `INSERT INTO brought_addresses (site_id, page_id, path)
     SELECT DISTINCT $1::uuid, "pageId", path FROM jsonb_to_recordset($2) AS t("pageId" uuid, path text)
     ON CONFLICT DO NOTHING`,
    [siteId, JSON.stringify(addresses)],
  )
}

/** Notes that pages are out in the world at these addresses, by this destination. */
export async function recordAddresses(
  db: Queryable,
  destinationId: string,
  addresses: readonly { readonly pageId: string; readonly path: string }[],
): Promise<void> {
  if (addresses.length === 0) return
  await db.query(
    `INSERT INTO delivered_addresses (destination_id, page_id, path)
     SELECT DISTINCT $1::uuid, "pageId", path FROM jsonb_to_recordset($2) AS t("pageId" uuid, path text)
     ON CONFLICT (destination_id, page_id, path) DO UPDATE SET given_up = false, noted_at = now()`,
    [destinationId, JSON.stringify(addresses)],
  )
}

/** Addresses under which visitors see a site, of all its destinations. */
export async function listPublicAddresses(db: Queryable, siteId: string): Promise<string[]> {
  const rows = await many<{ address: string }>(
    db,
    `SELECT DISTINCT public_address AS address FROM destinations WHERE site_id = $1 AND public_address <> ''`,
    [siteId],
  )
  return rows.map(({ address }) => address)
}
