import type { ManifestFile } from './compare'

type Kind = Pick<ManifestFile, 'kind' | 'isHome'>

const pageStep = 2
const homeStep = 3
const listStep = 4

/** Files there are removed last of all, when nothing that visitors meet leads to them any more. */
export const removalStep = 5

/** What search engines and feed readers ask for at the top of a site: it names pages by their addresses. */
const listsPages = /^(?:sitemap[\w-]*\.xml|(?:feed|atom|rss|index)[\w-]*\.(?:xml|rss|atom|rdf)|robots\.txt)$/i

/**
 * When a file is sent: those of a step at once, and none before the step below it is complete, so that nobody meets a
 * page without what it needs, or is told of one that is not there. Pictures, documents and fonts (0), then style sheets and
 * scripts (1), then pages (2), the home page (3), and lists of pages (4).
 */
export function stepOf({ path, kind, isHome }: Pick<ManifestFile, 'path'> & Kind): number {
  if (isHome) return homeStep
  if (kind === 'page') return pageStep
  if (listsPages.test(path)) return listStep
  // Style sheets and scripts ask for pictures and fonts, so these are there before them.
  return /\.(css|js|mjs)$/i.test(path) ? 1 : 0
}

/** What is sent in a step. */
export const kindInStep = (step: number): Kind => ({
  kind: step === pageStep || step === homeStep ? 'page' : 'file',
  isHome: step === homeStep,
})
