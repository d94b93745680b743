import { randomUUID } from 'node:crypto'
import type { Piscina } from 'piscina'
import {
  type BringingChoices,
  type BroughtFile,
  commonFolder,
  type ComparedPage,
  isPageName,
  type Remark,
} from '#core/bringing'
import { namesOf } from '#core/naming'
import { treeOf } from '#core/plan'
import { Problem } from '#core/problems'
import { checkSite, defaultScheme, type Site } from '#core/site'
import { decodeHtml } from '#core/texts'
import {
  getBlobs,
  hashOf,
  type Pieces,
  PostgresContents,
  putBlobs,
  readAhead,
  unpack,
} from '#server/contents'
import { log, notFound, noteRequest, pool, threadsOf, transaction } from '#server/platform'
import { fileKindOf, insertSite, readTemplateAhead, tellingBytes } from '#server/sites'
import {
  deleteBringing,
  findBringing,
  insertBringing,
  listWaiting,
  putWaiting,
  weighWaiting,
} from './bringing-rows'
import type { UnderstandAnswer, UnderstandTask } from './understand.worker'

/** What one site that is brought in may have. */
const mostFiles = 20_000
const mostBytes = 2_000_000_000
const mostFileBytes = 200_000_000
/** Texts that are read: pages and style sheets, in bytes of each. */
const longestText = 4_000_000
const deadlineMs = 90_000

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

/** Files that a system or a program puts beside others for itself. */
const leftOut = /(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$|\.git\/|\.svn\/)/i

export async function beginBringing(accountId: string, name: string): Promise<string> {
  const id = randomUUID()
  await insertBringing(pool(), accountId, id, name.slice(0, 200))
  return id
}

async function roomFor(accountId: string, id: string): Promise<{ files: number; bytes: number }> {
  if (!(await findBringing(pool(), accountId, id))) throw notFound()
  const has = await weighWaiting(pool(), id)
  return { files: mostFiles - has.files, bytes: mostBytes - has.bytes }
}

const tooMuch = () =>
  new Problem('archive-too-large', { most: `${mostFiles.toLocaleString('en')} files and 2,000 MB` })

/** A path from the top, without steps that lead out; null for one that is none. */
function cleanPath(path: string): string | null {
  const steps = path
    .replaceAll('\\', '/')
    .split('/')
    .filter((step) => step !== '' && step !== '.')
  const isOdd = steps.some((step) => step === '..' || /[\u0000-\u001f]/.test(step))
  return steps.length === 0 || isOdd || path.length > 1_000 ? null : steps.join('/')
}

/** Takes one file of a folder. @throws Problem `file-too-large`, `archive-too-large`, `bad-input` */
export async function takeBroughtFile(
  accountId: string,
  id: string,
  path: string,
  body: Pieces,
): Promise<void> {
  const at = cleanPath(path)
  if (at === null) throw new Problem('bad-input', { why: `“${path.slice(0, 100)}” is no path of a file.` })
  const room = await roomFor(accountId, id)
  if (room.files <= 0) throw tooMuch()
  if (leftOut.test(at)) return
  const stored = await new PostgresContents(pool()).put(counted(body, room.bytes))
  await putWaiting(pool(), id, [{ path: at, ...stored }])
}

async function* counted(body: Pieces, room: number) {
  let size = 0
  for await (const piece of body) {
    size += piece.byteLength
    if (size > mostFileBytes) throw new Problem('file-too-large', { most: '200 MB' })
    if (size > room) throw tooMuch()
    yield piece
  }
}

/** Takes a ZIP, file by file. @throws Problem `not-an-archive`, `archive-too-large` */
export async function takeBroughtZip(accountId: string, id: string, body: Pieces): Promise<void> {
  const { files, bytes } = await roomFor(accountId, id)
  const store = new PostgresContents(pool())
  /** Small files, stored some hundred at a time: one by one a site of pages took as long as understanding it. */
  let held: { readonly path: string; readonly bytes: Buffer }[] = []
  let heldBytes = 0
  const putHeld = async () => {
    if (held.length === 0) return
    const hashes = await putBlobs(
      pool(),
      held.map((one) => one.bytes),
    )
    const waiting = held.map((one, index) => ({
      path: one.path,
      hash: hashes[index]!,
      sizeBytes: one.bytes.length,
    }))
    await putWaiting(pool(), id, waiting)
    held = []
    heldBytes = 0
  }
  for await (const { path, sizeBytes, pieces } of unpack(body, { packedBytes: mostBytes, bytes, files })) {
    const at = cleanPath(path)
    if (at === null || leftOut.test(at)) continue
    if (sizeBytes > smallFile) {
      const stored = await store.put(counted(pieces(), bytes))
      await putWaiting(pool(), id, [{ path: at, ...stored }])
      continue
    }
    const read: Uint8Array[] = []
    // What an archive says of its sizes is checked as it is unpacked.
    for await (const piece of counted(pieces(), bytes)) read.push(piece)
    held.push({ path: at, bytes: Buffer.concat(read) })
    heldBytes += sizeBytes
    if (held.length >= 200 || heldBytes > heldAtOnce) await putHeld()
  }
  await putHeld()
}

/** Files that are held until there are some, and what is held of them. */
const smallFile = 500_000
const heldAtOnce = 8_000_000

export const dropBringing = (accountId: string, id: string): Promise<void> =>
  deleteBringing(pool(), accountId, id)

/** How a site is brought in, as its author says it. */
export interface BringingWishes {
  readonly names: 'kept' | 'scheme'
  readonly lifts: boolean
  readonly generates: boolean
}

const choicesOf = ({ names, lifts, generates }: BringingWishes): BringingChoices => ({
  scheme: names === 'kept' ? null : defaultScheme,
  lifts,
  generates,
})

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
            why: `It is written in ${encoding}, as its ${toldBy} say; it goes out as UTF-8.`,
          })
        files.push({ ...file, kind: 'page', text: text.replaceAll('\0', '\ufffd').toWellFormed() })
      } else if (kind === 'style' && file.sizeBytes <= longestText) {
        const { text } = decodeHtml(bytes)
        files.push({ ...file, kind, text: text.toWellFormed() })
      } else files.push({ ...file, kind })
    }
  }
  return { files, remarks }
}

type UnderstoodSite = Exclude<UnderstandAnswer, { refusal: string }>

/** What was understood last: it is looked at first, and made a moment later under the same choices. */
let latest: { readonly key: string; readonly understood: UnderstoodSite } | null = null
const keptMs = 10 * 60_000
/** Texts kept so, in UTF-16 code units. */
const mostKept = 60_000_000

const forgetUnderstood = () => {
  latest = null
}

async function understandWaiting(
  accountId: string,
  id: string,
  wishes: BringingWishes,
): Promise<UnderstoodSite> {
  const bringing = await findBringing(pool(), accountId, id)
  if (!bringing) throw notFound()
  const { names, lifts, generates } = wishes
  // By what is in each file: another of the same size may have taken its place.
  const waiting = await listWaiting(pool(), id)
  const key = hashOf(JSON.stringify([id, waiting, bringing.name, names, lifts, generates]))
  if (latest?.key === key) return latest.understood
  const understood = await understandAnew(id, bringing.name, wishes)
  const size = understood.texts.reduce((sum, [, text]) => sum + text.length, 0)
  if (size > mostKept) return understood
  const kept = { key, understood }
  latest = kept
  // Who goes away does not leave a site in memory.
  setTimeout(() => latest === kept && forgetUnderstood(), keptMs).unref()
  return understood
}

async function understandAnew(id: string, name: string, wishes: BringingWishes): Promise<UnderstoodSite> {
  const begun = performance.now()
  const { files, remarks } = await readFiles(id)
  const task = { files, name, choices: choicesOf(wishes), year: new Date().getFullYear() }
  const readMs = Math.round(performance.now() - begun)
  let answer: UnderstandAnswer
  try {
    answer = await threads().run(task, { signal: AbortSignal.timeout(deadlineMs) })
  } catch (error) {
    log.warn({ err: error, files: files.length }, 'a site that could not be understood')
    throw new Problem('too-heavy', null, { cause: error })
  }
  const allMs = Math.round(performance.now() - begun)
  log.info({ files: files.length, readMs, understandMs: allMs - readMs }, 'understood')
  if ('refusal' in answer) throw new Problem('bad-input', { why: answer.refusal })
  // As everything else of it is told: without the folder that came with an archive.
  const common = commonFolder(files.map(({ path }) => path))
  const own = remarks.map((remark) => ({ ...remark, path: remark.path.slice(common.length) }))
  return { ...answer, remarks: [...own, ...answer.remarks] }
}

/** A page as it would be brought in. */
export interface BroughtLine {
  readonly label: string
  readonly depth: number
  readonly was: string
  readonly path: string
  readonly template: string
  readonly outcome: ComparedPage['outcome']
}

/** What was understood, as far as it is shown. */
export interface BringingView {
  readonly name: string
  readonly language: string
  readonly titlePattern: string
  readonly lines: readonly BroughtLine[]
  readonly fileCount: number
  readonly templates: readonly {
    readonly name: string
    readonly pages: number
    readonly slots: readonly string[]
    readonly isWhole: boolean
    readonly source: string
  }[]
  readonly otherwise: readonly ComparedPage[]
  /** Pages that differ in their menus alone, and one of them. */
  readonly menus: { readonly pages: number; readonly example: ComparedPage } | null
  readonly remarks: readonly Remark[]
}

/** Lines of a list that are shown; of more, the number tells. */
const mostShown = 2_000

/** Understands what waits, and tells it. Nothing is made. */
export async function lookAtBringing(
  accountId: string,
  id: string,
  wishes: BringingWishes,
): Promise<BringingView> {
  const { site, templates, compared, remarks, texts } = await understandWaiting(accountId, id, wishes)
  const names = namesOf(site)
  const byId = new Map(compared.map((one) => [one.id, one]))
  const templateOf = new Map(
    templates.flatMap(({ name, pageIds }) => pageIds.map((pageId) => [pageId, name])),
  )
  const textOf = new Map(texts)
  const byMenus = compared.filter(({ outcome }) => outcome === 'menus')
  return {
    name: site.name,
    language: site.language,
    titlePattern: site.titlePattern,
    fileCount: site.files.length,
    lines: treeOf(site)
      .places.slice(0, mostShown)
      .map(({ page, depth }) => ({
        label: page.label,
        depth,
        was: byId.get(page.id)!.path,
        path: names.pages.get(page.id)!.path,
        template: templateOf.get(page.id) ?? '',
        outcome: byId.get(page.id)!.outcome,
      })),
    templates: templates.map(({ templateId, name, pageIds, slots, isWhole }) => ({
      name,
      pages: pageIds.length,
      slots,
      isWhole,
      source: (textOf.get(site.templates.find((one) => one.id === templateId)!.source) ?? '').slice(
        0,
        20_000,
      ),
    })),
    menus: byMenus.length > 0 ? { pages: byMenus.length, example: byMenus[0]! } : null,
    otherwise: compared.filter(({ outcome }) => outcome === 'otherwise').slice(0, 200),
    remarks: remarks.slice(0, mostShown),
  }
}

/**
 * Makes the site of what waits; asked for again under one request id, it is made once.
 * @throws Problem `too-heavy`, `template-too-heavy`, `not-whole`
 */
export async function bringIn(
  accountId: string,
  id: string,
  wishes: BringingWishes & { readonly name: string },
  requestId: string,
): Promise<string> {
  const { site: understood, texts, templates } = await understandWaiting(accountId, id, wishes)
  const site: Site = { ...understood, name: wishes.name.trim() || understood.name }
  if (checkSite(site).length > 0) {
    log.error({ faults: checkSite(site) }, 'a site that was brought in is not whole')
    throw new Problem('not-whole')
  }
  const textOf = new Map(texts)
  for (const { source } of site.templates) await readTemplateAhead(textOf.get(source) ?? '')
  const sources = new Set(site.templates.map(({ source }) => source))
  for (const [hash, text] of texts) if (!sources.has(hash)) await readAhead('html', text)
  log.info({ pages: site.pages.length, files: site.files.length, templates: templates.length }, 'brought in')
  forgetUnderstood()
  return transaction(async (client) => {
    const made = await noteRequest(client, accountId, requestId, site.id)
    if (made !== 'new') return made.result!
    for (let at = 0; at < texts.length; at += 200)
      await putBlobs(
        client,
        texts.slice(at, at + 200).map(([, text]) => text),
      )
    await insertSite(client, site, accountId)
    await deleteBringing(client, accountId, id)
    return site.id
  })
}
