import { mayRole, type Right, type Role } from '#core/site'
import { Problem } from '#core/problems'
import { maybeOne, type Queryable } from '#server/platform'

/** What an account is to a site; null for a stranger, and where there is no such site. */
export const roleIn = async (db: Queryable, siteId: string, accountId: string): Promise<Role | null> =>
  (await maybeOne<{ role: Role | null }>(db, 'SELECT role_in_site($1, $2) AS role', [siteId, accountId]))
    ?.role ?? null

/** Refuses who has a role that does not go so far. @throws Problem `no-right` */
export function requireRight(role: Role, right: Right): void {
  if (!mayRole(role, right)) throw new Problem('no-right', { right })
}
