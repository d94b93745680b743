import { setTimeout as wait } from 'node:timers/promises'
import pMap from 'p-map'
import { type Followed, type OutsideSources, outsideAddresses } from '#core/findings'
import { contentsOfPages, type Site } from '#core/site'
import { getTexts, loadFacts, loadFileFacts, textFrom } from '#server/contents'
import { limitFollowing, pool } from '#server/platform'
import { keepFollowed, listFollowed, putFollowed } from '../rows/followed-rows'
import { follow } from './follow'

/** Servers that are asked at a time, and how long one of them is left alone between two questions. */
const hostsAtOnce = 8
const pauseMs = 250
/** Addresses whose outcome is kept before it is stored. */
const storedAtOnce = 20

async function sourcesOf(site: Site): Promise<OutsideSources> {
  const sources = site.templates.map(({ source }) => source)
  return {
    factsOf: await loadFacts(pool(), contentsOfPages(site.pages.filter(({ trial }) => !trial))),
    fileFactsOf: await loadFileFacts(pool(), site.files),
    textOf: textFrom(await getTexts(pool(), sources)),
  }
}

/** What is known of the addresses outside: how many there are, how many were followed, and when last. */
export interface OutsideSummary {
  readonly addressCount: number
  readonly followedCount: number
  readonly followedAt: Date | null
  /** Addresses that did not answer programs, which a person may look at. */
  readonly unsure: readonly { readonly address: string; readonly status: number | null }[]
}

export async function outsideOf(site: Site): Promise<OutsideSummary> {
  const addresses = outsideAddresses(site, await sourcesOf(site))
  const followed = (await listFollowed(pool(), site.id)).filter(({ address }) => addresses.has(address))
  return {
    addressCount: addresses.size,
    followedCount: followed.length,
    followedAt: followed.reduce<Date | null>((last, { followedAt }) => (last && last > followedAt ? last : followedAt), null), // prettier-ignore
    unsure: followed.filter(({ outcome }) => outcome === 'unsure').slice(0, 500),
  }
}

/**
 * Follows every address outside once: one at a time at each server, several servers at a time. What came of it
 * is stored as it goes, so that a cancelled round is not lost.
 * @throws Problem `too-many-requests`
 */
export async function followOutside(
  site: Site,
  accountId: string,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<void> {
  await limitFollowing(accountId)
  const addresses = [...outsideAddresses(site, await sourcesOf(site)).keys()]
  await keepFollowed(pool(), site.id, addresses)
  const byHost = new Map<string, string[]>()
  for (const address of addresses) {
    const { host } = new URL(address)
    const known = byHost.get(host)
    if (known) known.push(address)
    else byHost.set(host, [address])
  }
  let done = 0
  let held: (Followed & { readonly address: string })[] = []
  const store = async () => {
    const some = held
    held = []
    await putFollowed(pool(), site.id, some)
  }
  tell(0, addresses.length)
  const ofHost = async (list: readonly string[]) => {
    for (const [index, address] of list.entries()) {
      if (signal.aborted) return
      if (index > 0) await wait(pauseMs)
      const followed = await follow(address, signal)
      // What was cut off says nothing of the address.
      if (signal.aborted) return
      held.push({ address, ...followed })
      tell(++done, addresses.length)
      if (held.length >= storedAtOnce) await store()
    }
  }
  await pMap([...byHost.values()], ofHost, { concurrency: hostsAtOnce })
  await store()
}
