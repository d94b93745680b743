import { edit } from '#core/change'
import { diffSites, isEmptyDiff } from '#core/site'
import { listAddresses } from '../rows/address-rows'
import { announce, transaction } from '#server/platform'
import { saveRevision } from '../rows/history-rows'
import { loadSite } from '../rows/site-rows'

/**
 * Brings what the site says of addresses that are out in the world up to what its destinations hold.
 * A revision that windows hear of, but no step that undo takes back.
 */
export async function noteDelivered(siteId: string, accountId: string): Promise<void> {
  const revision = await transaction(async (client) => {
    const stored = await loadSite(client, siteId, accountId, { lock: true })
    if (!stored) return null
    const addresses = await listAddresses(client, siteId)
    const edited = edit(stored.site, { kind: 'noteAddresses', addresses })
    if ('refusal' in edited) throw new Error(edited.refusal.message)
    const diff = diffSites(stored.site, edited.site)
    if (isEmptyDiff(diff)) return null
    return saveRevision(client, edited.site, {
      kind: 'change',
      title: 'what was delivered',
      diff,
      by: null,
      undoable: false,
    })
  })
  if (revision !== null) await announce({ siteId, kind: 'revision', revision })
}
