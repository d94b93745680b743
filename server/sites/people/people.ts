import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { type GivenRole, roles } from '#core/site'
import { Problem } from '#core/problems'
import { announceSoon, notFound, noteEvent, pool, transaction } from '#server/platform'
import { insertSite, loadSite } from '../rows/site-rows'
import { roleIn } from './access'
import {
  deletePerson,
  findCopy,
  findInvitation,
  type Gives,
  type HeldInvitation,
  insertCopy,
  insertInvitation,
  noteTaken,
  putPerson,
  updatePerson,
} from './people-rows'

const hashOf = (token: string) => createHash('sha256').update(token).digest()

/**
 * Makes an address to hand out. Nobody is told by it whether an e-mail address has an account: whoever opens it, signed in,
 * takes what it gives.
 * @param days after which it gives nothing any more
 * @returns what the address holds: it is not kept, so this is the only time
 */
export async function invite(
  siteId: string,
  madeBy: string,
  { gives, label, days }: { gives: Gives; label: string; days: number },
): Promise<string> {
  const token = randomBytes(18).toString('base64url')
  await insertInvitation(pool(), { siteId, gives, label, tokenHash: hashOf(token), madeBy, days })
  return token
}

/** What an address that was handed out gives; null when it gives nothing (any more). */
export const lookAtInvitation = (token: string): Promise<HeldInvitation | null> =>
  findInvitation(pool(), hashOf(token))

/** Whether a path is the address of an invitation that was handed out to many: they come from one place, as a class does. */
export async function isForMany(path: string): Promise<boolean> {
  const [, token] = /^\/invitations\/([\w-]{1,100})$/.exec(path) ?? []
  return token !== undefined && (await lookAtInvitation(token))?.gives === 'copy'
}

/**
 * Takes what an invitation gives. Taken again, a copy is the one that was taken, and nobody who takes part with more comes
 * to take part with less.
 * @returns the site to go to
 */
export async function takeInvitation(token: string, accountId: string): Promise<string> {
  const siteId = await transaction(async (client) => {
    const held = await findInvitation(client, hashOf(token), true)
    if (!held) throw new Problem('no-invitation')
    if (held.gives === 'copy') return takeCopy(held)
    const has = await roleIn(client, held.siteId, accountId)
    if (has && roles.indexOf(has) >= roles.indexOf(held.gives)) return held.siteId
    await putPerson(client, held.siteId, accountId, held.gives)
    await noteTaken(client, held.id)
    noteEvent('role given', { siteId: held.siteId, to: accountId, role: held.gives })
    return held.siteId

    async function takeCopy({ id, siteId: from, madeBy }: HeldInvitation): Promise<string> {
      const taken = await findCopy(client, id, accountId)
      if (taken) return taken
      // As it is now; what is out in the world of it is the original's alone.
      const stored = await loadSite(client, from, madeBy)
      if (!stored) throw notFound()
      const copy = {
        ...stored.site,
        id: randomUUID(),
        pages: stored.site.pages.map((page) => ({ ...page, addresses: [] })),
      }
      await insertSite(client, copy, accountId)
      if (accountId !== madeBy) await putPerson(client, copy.id, madeBy, 'reader')
      await insertCopy(client, id, accountId, copy.id)
      await noteTaken(client, id)
      return copy.id
    }
  })
  announceSoon({ siteId, kind: 'people' })
  return siteId
}

/** Gives somebody who takes part another role. The owner's is not given away. */
export async function changeRole(siteId: string, accountId: string, role: GivenRole): Promise<void> {
  await updatePerson(pool(), siteId, accountId, role)
  noteEvent('role given', { siteId, to: accountId, role })
  announceSoon({ siteId, kind: 'people' })
}

/** Somebody takes part no more. What they wrote stays. */
export async function removePerson(siteId: string, accountId: string): Promise<void> {
  await deletePerson(pool(), siteId, accountId)
  noteEvent('role taken', { siteId, from: accountId })
  announceSoon({ siteId, kind: 'people' })
}
