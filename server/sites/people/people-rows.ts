import type { GivenRole, Role } from '#core/site'
import { nameOf } from '#server/accounts'
import { many, maybeOne, type Queryable } from '#server/platform'

/** Somebody who takes part in a site. */
export interface Person {
  readonly accountId: string
  readonly name: string
  readonly email: string
  readonly role: Role
  /** Null for the owner. */
  readonly since: Date | null
}

/** Everybody who takes part in a site, its owner in front. */
export const listPeople = (db: Queryable, siteId: string): Promise<Person[]> =>
  many<Person>(
    db,
    `SELECT a.id AS "accountId", ${nameOf('a')} AS name, a.email, taking.role, taking.since FROM (
       SELECT account_id, 'owner' AS role, NULL::timestamptz AS since FROM sites WHERE id = $1
       UNION ALL SELECT account_id, role, since FROM site_people WHERE site_id = $1
     ) taking JOIN accounts a ON a.id = taking.account_id
     ORDER BY taking.since NULLS FIRST, a.id`,
    [siteId],
  )

/** Gives somebody a role, or another. */
export async function putPerson(
  db: Queryable,
  siteId: string,
  accountId: string,
  role: GivenRole,
): Promise<void> {
  await db.query(
    `INSERT INTO site_people (site_id, account_id, role) VALUES ($1, $2, $3)
     ON CONFLICT (site_id, account_id) DO UPDATE SET role = excluded.role`,
    [siteId, accountId, role],
  )
}

/** Gives a role to somebody who takes part already; nothing for anybody else. */
export async function updatePerson(
  db: Queryable,
  siteId: string,
  accountId: string,
  role: GivenRole,
): Promise<void> {
  await db.query('UPDATE site_people SET role = $3 WHERE site_id = $1 AND account_id = $2', [
    siteId,
    accountId,
    role,
  ])
}

export async function deletePerson(db: Queryable, siteId: string, accountId: string): Promise<void> {
  await db.query('DELETE FROM site_people WHERE site_id = $1 AND account_id = $2', [siteId, accountId])
}

/** What an invitation gives: a part in the site, or a copy of it. */
export type Gives = 'writer' | 'partner' | 'copy'

/** An address that was handed out, as those who manage the site see it: what it holds is known to nobody any more. */
export interface Invitation {
  readonly id: string
  readonly gives: Gives
  readonly label: string
  readonly madeAt: Date
  readonly endsAt: Date
  readonly takenCount: number
}

const invitationColumns = `id, gives, label, made_at AS "madeAt", ends_at AS "endsAt", taken_count AS "takenCount"`

/** Invitations of a site that can still be taken, and those of copies, which are looked back at. */
export const listInvitations = (db: Queryable, siteId: string): Promise<Invitation[]> =>
  many<Invitation>(
    db,
    `SELECT ${invitationColumns} FROM invitations WHERE site_id = $1 AND (ends_at > now() OR taken_count > 0 AND gives = 'copy')
     ORDER BY made_at DESC, id LIMIT 200`,
    [siteId],
  )

export interface NewInvitation {
  readonly siteId: string
  readonly gives: Gives
  readonly label: string
  readonly tokenHash: Buffer
  readonly madeBy: string
  readonly days: number
}

export async function insertInvitation(db: Queryable, made: NewInvitation): Promise<void> {
  await db.query(
    `INSERT INTO invitations (site_id, gives, label, token_hash, made_by, ends_at)
     VALUES ($1, $2, $3, $4, $5, now() + make_interval(days => $6))`,
    [made.siteId, made.gives, made.label, made.tokenHash, made.madeBy, made.days],
  )
}

/** Ends an invitation; what was taken by it stays. */
export async function endInvitation(db: Queryable, siteId: string, id: string): Promise<void> {
  await db.query('UPDATE invitations SET ends_at = now() WHERE site_id = $1 AND id = $2', [siteId, id])
}

/** An invitation that somebody holds the address of. */
export interface HeldInvitation {
  readonly id: string
  readonly siteId: string
  readonly siteName: string
  readonly gives: Gives
  readonly madeBy: string
  /** What whoever made it is known by. */
  readonly from: string
}

/** @param lock keeps it from being taken twice until the transaction ends */
export const findInvitation = (
  db: Queryable,
  tokenHash: Buffer,
  lock = false,
): Promise<HeldInvitation | null> =>
  maybeOne<HeldInvitation>(
    db,
    `SELECT i.id, i.site_id AS "siteId", s.name AS "siteName", i.gives, i.made_by AS "madeBy", ${nameOf('a')} AS from
     FROM invitations i JOIN sites s ON s.id = i.site_id JOIN accounts a ON a.id = i.made_by
     -- Of two at once, one may have begun before the other ended it: that it was taken counts, not when.
     WHERE i.token_hash = $1 AND i.ends_at > now() AND (i.gives = 'copy' OR i.taken_count = 0) ${lock ? 'FOR UPDATE OF i' : ''}`,
    [tokenHash],
  )

/** Notes that an invitation was taken; one that gives a part in a site is for one person, and ends with it. */
export async function noteTaken(db: Queryable, id: string): Promise<void> {
  await db.query(
    `UPDATE invitations SET taken_count = taken_count + 1, ends_at = CASE WHEN gives = 'copy' THEN ends_at ELSE now() END
     WHERE id = $1`,
    [id],
  )
}

/** A copy that somebody took of a site that was handed out. */
export interface HandedOut {
  readonly siteId: string
  readonly invitationId: string
  readonly name: string
  readonly pageCount: number
  readonly writtenCount: number
  readonly deliveryCount: number
  readonly changedAt: Date
}

/** Copies of a site by who took them, as far as an account may look at them. */
export async function listHandedOut(db: Queryable, siteId: string, accountId: string): Promise<HandedOut[]> {
  const copies = await many<HandedOut>(
    db,
    `SELECT h.copy_id AS "siteId", h.invitation_id AS "invitationId", ${nameOf('a')} AS name, c.changed_at AS "changedAt",
       (SELECT count(*)::int FROM pages p WHERE p.site_id = c.id AND NOT p.trial) AS "pageCount",
       (SELECT count(DISTINCT revision)::int FROM history h WHERE h.site_id = c.id AND h.made_by = a.id) AS "writtenCount",
       (SELECT count(*)::int FROM deliveries v JOIN destinations d ON d.id = v.destination_id
        WHERE d.site_id = c.id AND v.state = 'done') AS "deliveryCount"
     FROM handed_out h JOIN invitations i ON i.id = h.invitation_id JOIN sites c ON c.id = h.copy_id
       JOIN accounts a ON a.id = h.account_id
     WHERE i.site_id = $1 AND role_in_site(c.id, $2) IS NOT NULL ORDER BY lower(${nameOf('a')}), c.id LIMIT 2000`,
    [siteId, accountId],
  )
  // As people count: pupil 2 before pupil 10.
  const { compare } = new Intl.Collator('en', { numeric: true })
  return copies.sort((one, other) => compare(one.name, other.name))
}

/** Whose copy a site is, for somebody else who may look at what it was made from. */
export interface CopyOf {
  readonly by: string
  readonly fromId: string
  readonly fromName: string
}

export const copyOf = (db: Queryable, copyId: string, accountId: string): Promise<CopyOf | null> =>
  maybeOne<CopyOf>(
    db,
    `SELECT ${nameOf('a')} AS by, s.id AS "fromId", s.name AS "fromName"
     FROM handed_out h JOIN invitations i ON i.id = h.invitation_id JOIN sites s ON s.id = i.site_id
       JOIN accounts a ON a.id = h.account_id
     WHERE h.copy_id = $1 AND h.account_id <> $2
       AND role_in_site(s.id, $2) IS NOT NULL AND role_in_site(h.copy_id, $2) IS NOT NULL`,
    [copyId, accountId],
  )

/** The copy that an account took by an invitation, or null. */
export const findCopy = async (
  db: Queryable,
  invitationId: string,
  accountId: string,
): Promise<string | null> =>
  (
    await maybeOne<{ id: string }>(
      db,
      'SELECT copy_id AS id FROM handed_out WHERE invitation_id = $1 AND account_id = $2',
      [invitationId, accountId],
    )
  )?.id ?? null

export async function insertCopy(
  db: Queryable,
  invitationId: string,
  accountId: string,
  copyId: string,
): Promise<void> {
  await db.query('INSERT INTO handed_out (invitation_id, account_id, copy_id) VALUES ($1, $2, $3)', [
    invitationId,
    accountId,
    copyId,
  ])
}
