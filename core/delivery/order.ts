import type { ManifestFile } from './compare'

/** Files there are removed last of all, when nothing that visitors meet leads to them any more. */
export const removalStep = 4

/**
 * When a file is sent: those of a step at once, and none before the step below it is complete, so that visitors
 * never meet a page without what it needs. Pictures, documents and fonts (0), then style sheets and scripts (1),
 * then pages (2), and the home page (3).
 */
export function stepOf({ path, kind, isHome }: Pick<ManifestFile, 'path' | 'kind' | 'isHome'>): number {
  if (isHome) return 3
  if (kind === 'page') return 2
  // Style sheets and scripts ask for pictures and fonts, so these are there before them.
  return /\.(css|js|mjs)$/i.test(path) ? 1 : 0
}
