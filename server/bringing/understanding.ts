import { type BringingChoices, commonFolder, type FrameMark, type Into, type PlanBy } from '#core/bringing'
import { Problem } from '#core/problems'
import { defaultScheme } from '#core/site'
import { getTexts, hashOf } from '#server/contents'
import { deadline, log, notFound, pool } from '#server/platform'
import { loadSite, type StoredSite } from '#server/sites'
import { type Bringing, findBringing, listWaiting } from './bringing-rows'
import { type Understanding, understandInThread, Unread, type Watch } from './in-thread'
import type { UnderstandTask } from './understand.worker'
import { readWaiting } from './waiting-files'

/** How long understanding may take: so long, and more for each megabyte of pages, which are read several times. */
const deadlineMs = 90_000
const deadlineMsAMegabyte = 6_000

/** How a site is brought in, as its author says it. */
export interface BringingWishes {
  readonly names: 'kept' | 'scheme'
  readonly lifts: boolean
  readonly generates: boolean
  /** What the plan of a new site is taken from. */
  readonly planBy: PlanBy
  /** The site that its pages join; none for a new one. */
  readonly into?: string
  /** The page of it that they come under; the top of the plan without one. */
  readonly under?: string
  readonly same: Into['same']
  readonly frame: Into['frame']
}

const choicesOf = (
  { names, lifts, generates, planBy }: BringingWishes,
  { plan, marks }: Pick<Bringing, 'plan' | 'marks'>,
): BringingChoices => ({
  scheme: names === 'kept' ? null : defaultScheme,
  lifts,
  generates,
  planBy,
  ...(plan && { plan }),
  ...(marks && { marks }),
})

export type UnderstoodSite = Exclude<Understanding, { refusal: string }> & {
  /** Whether its author corrected the plan that was found. */
  readonly isCorrected: boolean
  /** Where its author moved the edges of slots. */
  readonly marks: readonly FrameMark[]
  /** The site that its pages join, as it was when that was worked out. */
  readonly into: StoredSite | null
}

/** What was understood last: it is looked at first, and made a moment later under the same choices. */
let latest: { readonly key: string; readonly understood: UnderstoodSite } | null = null
const keptMs = 10 * 60_000
/** Texts kept so, in bytes. */
const mostKept = 60_000_000

export const forgetUnderstood = () => {
  latest = null
}

async function siteToJoin(accountId: string, { into, under }: BringingWishes): Promise<StoredSite | null> {
  if (into === undefined) return null
  const stored = await loadSite(pool(), into, accountId)
  if (!stored || (under !== undefined && !stored.site.pages.some(({ id }) => id === under))) throw notFound()
  return stored
}

/** Understands what waits under some wishes; asked again for the same, what was understood is taken. */
export async function understandWaiting(
  accountId: string,
  id: string,
  wishes: BringingWishes,
  watch: Watch = {},
): Promise<UnderstoodSite> {
  const bringing = await findBringing(pool(), accountId, id)
  if (!bringing) throw notFound()
  const into = await siteToJoin(accountId, wishes)
  const { names, lifts, generates, planBy, under, same, frame } = wishes
  // By what is in each file: another of the same size may have taken its place.
  const waiting = await listWaiting(pool(), id)
  const joining = into && [into.site.id, into.revision, under, same, frame]
  const key = hashOf(JSON.stringify([id, waiting, bringing, names, lifts, generates, planBy, joining]))
  if (latest?.key === key) return latest.understood
  const answer = await understandAnew(id, bringing, wishes, into, watch)
  const understood = { ...answer, into, isCorrected: bringing.plan !== null, marks: bringing.marks ?? [] }
  if (understood.texts.sizeBytes > mostKept) return understood
  const kept = { key, understood }
  latest = kept
  // Who goes away does not leave a site in memory.
  setTimeout(() => latest === kept && forgetUnderstood(), keptMs).unref()
  return understood
}

/** What a thread needs to understand files that wait. */
async function taskOf(
  { name, plan, marks }: Bringing,
  wishes: BringingWishes,
  stored: StoredSite | null,
): Promise<Omit<UnderstandTask, 'port'>> {
  const { same, frame, names, generates, under = null } = wishes
  const sources = stored?.site.templates.map(({ source }) => source) ?? []
  const into = stored && {
    ...{ site: stored.site, parentId: under, same, frame, names, generates },
    ...(marks && { marks }),
    texts: [...(await getTexts(pool(), sources))],
  }
  return { name, choices: choicesOf(wishes, { plan, marks }), into, year: new Date().getFullYear() }
}

const withoutFolder = (path: string, folder: string) =>
  path.startsWith(folder) ? path.slice(folder.length) : path

async function understandAnew(
  id: string,
  bringing: Bringing,
  wishes: BringingWishes,
  stored: StoredSite | null,
  { signal, tell }: Watch,
): Promise<Exclude<Understanding, { refusal: string }>> {
  const begun = performance.now()
  const waiting = await readWaiting(id)
  const task = await taskOf(bringing, wishes, stored)
  const files = waiting.paths.length
  const mostMs = deadlineMs + Math.ceil(waiting.pageBytes / 1e6) * deadlineMsAMegabyte
  const watch = { signal: deadline(mostMs, signal), ...(tell && { tell }) }
  const answer = await understandInThread(task, waiting.portions, watch).catch((error: unknown) => {
    signal?.throwIfAborted()
    if (error instanceof Unread) throw error.cause
    log.warn({ err: error, files }, 'a site that could not be understood')
    throw new Problem('too-heavy', null, { cause: error })
  })
  log.info({ files, understandMs: Math.round(performance.now() - begun) }, 'understood')
  if ('refusal' in answer) throw new Problem('bad-input', { why: answer.refusal })
  // As everything else of it is told: without the folder that came with an archive.
  const common = commonFolder(waiting.paths)
  const own = [...bringing.unread, ...waiting.remarks, ...answer.ofFiles].map((remark) => {
    return { ...remark, path: withoutFolder(remark.path, common) }
  })
  return { ...answer, remarks: [...own, ...answer.remarks] }
}
