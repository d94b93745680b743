import { type Comparison, type FileState, filesToSend } from '#core/delivery'
import { namesOf } from '#core/naming'
import type { Site } from '#core/site'

/** Files listed one by one; of more, the rest is counted. */
const listedAtMost = 300

/** A comparison as far as it is shown. */
export function showComparison(comparison: Comparison, site: Site) {
  const send = filesToSend(comparison)
  const { byPath } = namesOf(site)
  const pageStates: Record<string, FileState> = {}
  for (const file of comparison.files) {
    const target = byPath.get(file.path)
    if (target?.kind === 'page') pageStates[target.id] = file.state
  }
  return {
    pageStates,
    toSend: send.length,
    bytesToSend: send.reduce((sum, file) => sum + file.sizeBytes, 0),
    files: send
      .slice(0, listedAtMost)
      .map(({ path, sizeBytes, state, isHome, kind }) => ({ path, sizeBytes, state, isHome, kind })),
    leftovers: comparison.leftovers.slice(0, listedAtMost),
    leftoverCount: comparison.leftovers.filter((file) => file.state === 'to remove').length,
  }
}

export type ShownComparison = ReturnType<typeof showComparison>
