import pMap from 'p-map'
import type { Piscina } from 'piscina'
import { type BuiltFault, builtFindings, type Finding } from '#core/findings'
import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Hash, Page, Site } from '#core/site'
import { deadline, log, pool, threadsOf } from '#server/platform'
import { filesOfSite } from '../build'
import { listLooked, putLooked } from '../rows/looked-rows'

/** How long one page may be looked at; tests, which run into it, wait less. */
export const lookingLimits = { deadlineMs: 30_000 }
/** Pages looked at at a time. */
const atOnce = 2
/** Pages whose finished texts are fetched together. */
const portion = 20

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantLookers?: Piscina<{ html: string }, BuiltFault[]> }
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
const tooHeavy: BuiltFault = {
  rule: 'built-markup',
  code: 'too-heavy',
  what: 'This page is too much to be looked at as a whole.',
  piece: '',
}

async function finished(site: Site, signal: AbortSignal) {
  const files = await filesOfSite(pool(), site, signal)
  const hashes = new Map(files.manifest.map(({ path, hash }) => [path, hash]))
  const names = namesOf(site)
  const pages = realPlaces(treeOf(site)).flatMap(({ page }) => {
    const { path } = names.pages.get(page.id)!
    const hash = hashes.get(path)
    return hash === undefined ? [] : [{ page, path, hash }]
  })
  return { files, pages }
}

/** What is known of the finished pages: what was found, and how many were not looked at as they are now. */
export interface LookedSite {
  readonly findings: readonly Finding[]
  readonly pageCount: number
  readonly unlookedCount: number
}

export async function looksOf(site: Site, signal: AbortSignal): Promise<LookedSite> {
  const { pages } = await finished(site, signal)
  const looked = await listLooked(
    pool(),
    pages.map(({ hash }) => hash),
  )
  const told = pages.flatMap(({ page, hash }): { page: Page; faults: BuiltFault[] }[] => {
    const faults = looked.get(hash)
    return faults ? [{ page, faults }] : []
  })
  return {
    findings: builtFindings(told),
    pageCount: pages.length,
    unlookedCount: pages.length - told.length,
  }
}

/** Looks at every finished page that was not looked at as it is now; what was found is kept as it goes. */
export async function lookAtPages(
  site: Site,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<void> {
  const { files, pages } = await finished(site, signal)
  const looked = await listLooked(
    pool(),
    pages.map(({ hash }) => hash),
  )
  const left = pages.filter(({ hash }) => !looked.has(hash))
  let done = 0
  tell(0, left.length)
  for (let at = 0; at < left.length && !signal.aborted; at += portion) {
    const some = left.slice(at, at + portion)
    const bytes = await files.bytesOf(some.map(({ path }) => path))
    await pMap(
      some,
      async ({ path, hash }) => {
        if (signal.aborted) return
        await putLooked(pool(), hash, await lookAt(bytes.get(path)?.toString('utf8') ?? '', hash))
        tell(++done, left.length)
      },
      { concurrency: atOnce },
    )
  }
}

async function lookAt(html: string, hash: Hash): Promise<BuiltFault[]> {
  try {
    return await threads().run({ html }, { signal: deadline(lookingLimits.deadlineMs) })
  } catch (error) {
    log.warn({ err: error, hash, size: html.length }, 'a finished page that could not be looked at')
    return [tooHeavy]
  }
}
