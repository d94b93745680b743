import { availableParallelism } from 'node:os'
import { setImmediate } from 'node:timers/promises'
import { compareBrought, type ComparedPage, type Understood } from '#core/bringing'
import type { BuildSources } from '#core/build'
import { type Hash, type Page, type Site, textsOfPage, type TextOf } from '#core/site'
import { threadsOf } from '#server/platform'
import type { CompareTask } from './compare.worker'

/** Pages from which on others help: a thread takes a moment to begin. */
const worthHelp = 150
/** What one who helps takes at a time, in pages and in letters of them; and how many are compared here before anybody is looked after. */
const portion = 60
const portionLetters = 1_500_000
const turn = 10
/** Who helps, beside the one that asks; and the memory of each. */
const mostHelpers = 2
const memoryMb = 300
const youngMb = 12

type Compared = Pick<Understood, 'site' | 'pages' | 'madeIn' | 'old'>

/** The texts that some pages are made of. */
function textsOf(site: Site, pages: readonly Page[], textOf: TextOf): Map<Hash, string> {
  const hashes = [
    ...site.templates.map(({ source }) => source),
    ...pages.flatMap((page) => textsOfPage(page).map(({ hash }) => hash)),
  ]
  return new Map(hashes.map((hash) => [hash, textOf(hash)]))
}

/**
 * Compares what would come out of a site's pages: this thread from the first on, others from the last back, until they meet.
 * @returns in the order of the pages
 */
export async function compareShared(
  { site, pages, madeIn, old }: Compared,
  sources: BuildSources,
  tellOne: () => void,
): Promise<ComparedPage[]> {
  const compared: (readonly ComparedPage[])[] = []
  const helpers = pages.length < worthHelp ? 0 : Math.min(mostHelpers, availableParallelism() - 1)
  if (helpers === 0) return compareBrought({ site, pages, madeIn, old }, sources, tellOne)
  const threads = threadsOf<CompareTask, readonly ComparedPage[]>('server/bringing/compare.worker.ts', {
    threads: helpers,
    memoryMb,
    youngMb,
    waiting: helpers,
  })
  const pageById = new Map(site.pages.map((page) => [page.id, page]))
  let [front, back] = [0, pages.length]
  const help = async (): Promise<void> => {
    while (front < back) {
      const to = back
      let letters = 0
      do letters += pages[--back]!.length
      while (back > front && to - back < portion && letters < portionLetters)
      const from = back
      const some = pages.slice(from, to)
      const texts = textsOf(
        site,
        some.map(({ id }) => pageById.get(id)!),
        sources.textOf,
      )
      const task: CompareTask = {
        site,
        // As plain data: what is in numbers here is read with what all pages share.
        pages: some.map((page) => ({ ...page, references: [...page.references] })),
        madeIn: new Map(some.flatMap(({ id }) => (madeIn.has(id) ? [[id, madeIn.get(id)!]] : []))),
        old: { names: old.names, beside: old.beside, hostFolder: old.hostFolder },
        texts,
        year: sources.year,
      }
      // What is too much for one who helps is done here, which may take more.
      compared[from] = await threads
        .run(task)
        .catch(() => compareBrought({ site, pages: some, madeIn, old }, sources))
      some.forEach(tellOne)
    }
  }
  const helping = Promise.all(Array.from({ length: helpers }, help))
  helping.catch(() => {})
  try {
    while (front < back) {
      const from = front
      front = Math.min(back, from + turn)
      compared[from] = compareBrought(
        { site, pages: pages.slice(from, front), madeIn, old },
        sources,
        tellOne,
      )
      // Who helps is handed more only where this thread lets go.
      await setImmediate()
    }
    await helping
  } finally {
    front = back
    await threads.destroy()
  }
  return compared.flatMap((some) => some)
}
