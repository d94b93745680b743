import { isUtf8 } from 'node:buffer'
import { MessageChannel } from 'node:worker_threads'
import type { Piscina } from 'piscina'
import {
  type BringingChoices,
  type BroughtFile,
  commonFolder,
  type FrameMark,
  type Into,
  isPageName,
  type PlanBy,
  type Remark,
} from '#core/bringing'
import { fileSyntaxOf, mayRefer } from '#core/markup'
import { Problem } from '#core/problems'
import { defaultScheme } from '#core/site'
import { decodeHtml } from '#core/texts'
import { getBlobs, getTexts, hashOf } from '#server/contents'
import { deadline, log, notFound, pool, threadsOf } from '#server/platform'
import { fileKindOf, loadSite, type StoredSite, tellingBytes } from '#server/sites'
import { type Bringing, findBringing, listWaiting } from './bringing-rows'
import type { UnderstandAnswer, UnderstandTask } from './understand.worker'

/** Texts that are read: pages and style sheets, in bytes of each. */
const longestText = 4_000_000
/** How long understanding may take: so long, and more for each megabyte of pages, which are read several times. */
const deadlineMs = 90_000
const deadlineMsAMegabyte = 6_000

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantBringers?: Piscina<UnderstandTask, UnderstandAnswer> }
const threads = () =>
  (globals.rubricantBringers ??= threadsOf('server/bringing/understand.worker.ts', {
    threads: 1,
    memoryMb: 1_500,
    waiting: 20,
  }))

export async function endBringers(): Promise<void> {
  await globals.rubricantBringers?.destroy()
  globals.rubricantBringers = undefined
}

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

/** What a script, a drawing or data says, where it may refer to other files; nothing of one that is no UTF-8. */
function textToMend(
  { path, sizeBytes }: Pick<BroughtFile, 'path' | 'sizeBytes'>,
  bytes: Buffer,
): { text?: string } {
  const syntax = fileSyntaxOf(path, sizeBytes)
  if (syntax === null || !isUtf8(bytes)) return {}
  const text = bytes.toString('utf8')
  return mayRefer(text, syntax) ? { text } : {}
}

/** The files that wait, read as far as they have to be. */
async function readFiles(id: string): Promise<{ files: BroughtFile[]; remarks: Remark[] }> {
  const files: BroughtFile[] = []
  const remarks: Remark[] = []
  const waiting = await listWaiting(pool(), id)
  for (let at = 0; at < waiting.length; at += 100) {
    const some = waiting.slice(at, at + 100)
    const small = some.filter(({ sizeBytes }) => sizeBytes <= longestText)
    const contents = await getBlobs(
      pool(),
      small.map(({ hash }) => hash),
    )
    for (const file of some) {
      const bytes = contents.get(file.hash) ?? Buffer.alloc(0)
      const { kind } = await fileKindOf(file.path, bytes.subarray(0, tellingBytes))
      const isPage = isPageName(file.path)
      if (isPage && file.sizeBytes > longestText)
        remarks.push({
          path: file.path,
          why: 'It is larger than a page may be, so it stays a file as it is.',
        })
      if (isPage && file.sizeBytes <= longestText) {
        const { text, encoding, toldBy } = decodeHtml(bytes)
        if (encoding !== 'utf-8')
          remarks.push({
            path: file.path,
            why: `It is written in ${encoding}, as its ${toldBy} ${toldBy === 'bytes' ? 'say' : 'says'}; it goes out as UTF-8.`,
          })
        files.push({ ...file, kind: 'page', text: text.replaceAll('\0', '\ufffd').toWellFormed() })
      } else if (kind === 'style' && file.sizeBytes <= longestText) {
        const { text } = decodeHtml(bytes)
        files.push({ ...file, kind, text: text.toWellFormed() })
      } else files.push({ ...file, kind, ...textToMend(file, bytes) })
    }
  }
  return { files, remarks }
}

export type UnderstoodSite = Exclude<UnderstandAnswer, { refusal: string }> & {
  /** Whether its author corrected the plan that was found. */
  readonly isCorrected: boolean
  /** Where its author moved the edges of slots. */
  readonly marks: readonly FrameMark[]
  /** The site that its pages join, as it was when that was worked out. */
  readonly into: StoredSite | null
}

/** Who waits for it: how far it is, and that they wait no more. */
export interface Watch {
  readonly signal?: AbortSignal
  readonly tell?: (done: number, all: number) => void
}

/** What was understood last: it is looked at first, and made a moment later under the same choices. */
let latest: { readonly key: string; readonly understood: UnderstoodSite } | null = null
const keptMs = 10 * 60_000
/** Texts kept so, in UTF-16 code units. */
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
  const size = understood.texts.reduce((sum, [, text]) => sum + text.length, 0)
  if (size > mostKept) return understood
  const kept = { key, understood }
  latest = kept
  // Who goes away does not leave a site in memory.
  setTimeout(() => latest === kept && forgetUnderstood(), keptMs).unref()
  return understood
}

/** What a thread needs to understand files that wait, and what was told of them while they were read. */
async function taskOf(
  id: string,
  { name, plan, marks, unread }: Bringing,
  wishes: BringingWishes,
  stored: StoredSite | null,
): Promise<{ readonly task: Omit<UnderstandTask, 'port'>; readonly told: ToldOfFiles }> {
  const { files, remarks } = await readFiles(id)
  const { same, frame, names, generates, under = null } = wishes
  const sources = stored?.site.templates.map(({ source }) => source) ?? []
  const into = stored && {
    ...{ site: stored.site, parentId: under, same, frame, names, generates },
    ...(marks && { marks }),
    texts: [...(await getTexts(pool(), sources))],
  }
  return {
    task: { files, name, choices: choicesOf(wishes, { plan, marks }), into, year: new Date().getFullYear() },
    told: {
      remarks: [...unread, ...remarks],
      count: files.length,
      common: commonFolder(files.map(({ path }) => path)),
      megabytes: files.reduce((sum, { text = '' }) => sum + text.length, 0) / 1e6,
    },
  }
}

interface ToldOfFiles {
  readonly remarks: readonly Remark[]
  readonly count: number
  readonly common: string
  readonly megabytes: number
}

/**
 * Begins to understand in a thread. Nothing of the texts stays here meanwhile: the thread has its own, and twice a site of a
 * hundred megabytes is much.
 */
async function begin(
  reading: ReturnType<typeof taskOf>,
  { signal, tell }: Watch,
): Promise<{ readonly answered: Promise<UnderstandAnswer>; readonly told: ToldOfFiles }> {
  const { task, told } = await reading
  const ended = deadline(deadlineMs + Math.ceil(told.megabytes) * deadlineMsAMegabyte, signal)
  const { port1, port2 } = new MessageChannel()
  port1.on('message', ({ done, all }: { done: number; all: number }) => tell?.(done, all))
  const answered = threads()
    .run({ ...task, port: port2 }, { signal: ended, transferList: [port2] })
    .finally(() => port1.close())
    .catch((error: unknown) => {
      signal?.throwIfAborted()
      log.warn({ err: error, files: told.count }, 'a site that could not be understood')
      throw new Problem('too-heavy', null, { cause: error })
    })
  return { answered, told }
}

const withoutFolder = (path: string, folder: string) =>
  path.startsWith(folder) ? path.slice(folder.length) : path

async function understandAnew(
  id: string,
  bringing: Bringing,
  wishes: BringingWishes,
  stored: StoredSite | null,
  watch: Watch,
): Promise<Exclude<UnderstandAnswer, { refusal: string }>> {
  const begun = performance.now()
  const { answered, told } = await begin(taskOf(id, bringing, wishes, stored), watch)
  const readMs = Math.round(performance.now() - begun)
  const answer = await answered
  const allMs = Math.round(performance.now() - begun)
  log.info({ files: told.count, readMs, understandMs: allMs - readMs }, 'understood')
  if ('refusal' in answer) throw new Problem('bad-input', { why: answer.refusal })
  // As everything else of it is told: without the folder that came with an archive.
  const own = told.remarks.map((remark) => ({ ...remark, path: withoutFolder(remark.path, told.common) }))
  return { ...answer, remarks: [...own, ...answer.remarks] }
}
