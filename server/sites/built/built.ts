import pMap from 'p-map'
import type { Piscina } from 'piscina'
import { type BuiltFault, builtFindings, type Finding } from '#core/findings'
import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Hash, Page, Site } from '#core/site'
import { hashOf } from '#server/contents'
import { deadline, log, pool, threadsOf } from '#server/platform'
import { filesOfSite } from '../build'
import { listLooked, putLooked } from '../rows/looked-rows'
import type { Looked, LookTask } from './look.worker'

/** How long one page may be looked at; tests, which run into it, wait less. */
export const lookingLimits = { deadlineMs: 30_000 }
/** Pages looked at at a time. */
const atOnce = 2
/** Pages whose finished texts are fetched together. */
const portion = 20

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantLookers?: Piscina<LookTask, Looked> }
const threads = () =>
  (globals.rubricantLookers ??= threadsOf('server/sites/built/look.worker.ts', {
    threads: atOnce,
    memoryMb: 768,
    waiting: 100,
  }))

export async function endLookers(): Promise<void> {
  await globals.rubricantLookers?.destroy()
  globals.rubricantLookers = undefined
}

/** Told of a page at which the look took too long or too much. */
const tooHeavy: Omit<BuiltFault, 'rule'> = {
  code: 'too-heavy',
  what: 'This page is too much to be looked at as a whole.',
  piece: '',
}

/** Grows when colours are judged otherwise, so that what was found before is looked for again. */
const coloursAs = 'colours 1'
/** Style sheets that a page is looked at with, in bytes of all of a site; without more, its colours are not known. */
const mostSheets = 4_000_000

async function finished(site: Site, signal: AbortSignal) {
  const files = await filesOfSite(pool(), site, signal)
  const hashes = new Map(files.manifest.map(({ path, hash }) => [path, hash]))
  const names = namesOf(site)
  const sheets = site.files.flatMap((file) => {
    const path = file.kind === 'style' ? names.files.get(file.id) : undefined
    const hash = path === undefined ? undefined : hashes.get(path)
    return path === undefined || hash === undefined ? [] : [{ file, path, hash }]
  })
  // Colours depend on the page, on where it stands, and on every style sheet it may name.
  const ofSheets = hashOf(JSON.stringify([coloursAs, sheets.map(({ path, hash }) => [path, hash])]))
  const pages = realPlaces(treeOf(site)).flatMap(({ page }) => {
    const { path } = names.pages.get(page.id)!
    const hash = hashes.get(path)
    return hash === undefined
      ? []
      : [{ page, path, hash, coloursHash: hashOf(`${hash} ${path} ${ofSheets}`) }]
  })
  return { files, pages, sheets }
}

type FinishedPage = Awaited<ReturnType<typeof finished>>['pages'][number]

const listKnown = (pages: readonly FinishedPage[]) =>
  listLooked(
    pool(),
    pages.flatMap(({ hash, coloursHash }) => [hash, coloursHash]),
  )

/** What is known of the finished pages: what was found, and how many were not looked at as they are now. */
export interface LookedSite {
  readonly findings: readonly Finding[]
  readonly pageCount: number
  readonly unlookedCount: number
  /** Whether of those nothing but the colours is not known: a style sheet changed, and that is soon looked at. */
  readonly isForColours: boolean
}

export async function looksOf(site: Site, signal: AbortSignal): Promise<LookedSite> {
  const { pages, sheets } = await finished(site, signal)
  const looked = await listKnown(pages)
  let unlookedCount = 0
  let unreadCount = 0
  const told = pages.map(({ page, hash, coloursHash }): { page: Page; faults: BuiltFault[] } => {
    const [markup, colours] = [looked.get(hash), looked.get(coloursHash)]
    if (!markup || !colours) unlookedCount++
    if (!markup) unreadCount++
    return { page, faults: [...(colours ?? []), ...(markup ?? [])] }
  })
  return {
    findings: builtFindings(told, new Map(sheets.map(({ path, file }) => [path, file]))),
    pageCount: pages.length,
    unlookedCount,
    isForColours: unlookedCount > 0 && unreadCount === 0,
  }
}

/** The style sheets of a site as they come out. */
async function readSheets({ files, sheets }: Awaited<ReturnType<typeof finished>>) {
  const texts: [string, { hash: Hash; text: string }][] = []
  let size = 0
  for (const { path, hash } of sheets) {
    const bytes = (await files.bytesOf([path])).get(path)
    size += bytes?.length ?? 0
    if (size > mostSheets) break
    if (bytes) texts.push([path, { hash, text: bytes.toString('utf8') }])
  }
  return new Map(texts)
}

/** Looks at every finished page that was not looked at as it is now; what was found is kept as it goes. */
export async function lookAtPages(
  site: Site,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<void> {
  const built = await finished(site, signal)
  const looked = await listKnown(built.pages)
  const left = built.pages.filter(({ hash, coloursHash }) => !looked.has(hash) || !looked.has(coloursHash))
  const sheets = await readSheets(built)
  let done = 0
  tell(0, left.length)
  for (let at = 0; at < left.length && !signal.aborted; at += portion) {
    const some = left.slice(at, at + portion)
    const bytes = await built.files.bytesOf(some.map(({ path }) => path))
    await pMap(
      some,
      async ({ path, hash, coloursHash }) => {
        if (signal.aborted) return
        const html = bytes.get(path)?.toString('utf8') ?? ''
        const colours = looked.has(coloursHash) ? null : { path, sheets }
        const found = await lookAt({ html, markup: !looked.has(hash), colours }, hash)
        if (found.markup) await putLooked(pool(), hash, found.markup)
        if (found.colours) await putLooked(pool(), coloursHash, found.colours)
        tell(++done, left.length)
      },
      { concurrency: atOnce },
    )
  }
}

/** Each by itself: what is too much for one is not for the other. */
async function lookAt({ html, markup, colours }: LookTask, hash: Hash): Promise<Looked> {
  const run = async (task: Omit<LookTask, 'html'>, rule: BuiltFault['rule']): Promise<Looked> => {
    try {
      return await threads().run({ html, ...task }, { signal: deadline(lookingLimits.deadlineMs) })
    } catch (error) {
      log.warn({ err: error, hash, rule, size: html.length }, 'a finished page that could not be looked at')
      const faults: BuiltFault[] = [{ ...tooHeavy, rule }]
      return { markup: task.markup ? faults : null, colours: task.colours && faults }
    }
  }
  const ofMarkup = markup ? await run({ markup, colours: null }, 'built-markup') : null
  const ofColours = colours ? await run({ markup: false, colours }, 'built-colours') : null
  return { markup: ofMarkup?.markup ?? null, colours: ofColours?.colours ?? null }
}
