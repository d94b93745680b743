import {
  type Comparison,
  type FileState,
  filesToSend,
  type HostTraits,
  mayHideHome,
  tooLongFor,
} from '#core/delivery'
import { namesOf } from '#core/naming'
import type { Site } from '#core/site'
import { homeFileOf } from '#core/template'
import { needsOfPages } from '#server/sites'

/** Files listed one by one, to be chosen from; of more, the rest is counted. */
const listedAtMost = 5_000

/** A comparison as far as it is shown. */
export async function showComparison(
  comparison: Comparison,
  site: Site,
  traits: HostTraits,
  signal: AbortSignal,
) {
  const send = filesToSend(comparison)
  const { byPath } = namesOf(site)
  const pageStates: Record<string, FileState> = {}
  for (const file of comparison.files) {
    const target = byPath.get(file.path)
    if (target?.kind === 'page') pageStates[target.id] = file.state
  }
  const listed = send
    .slice(0, listedAtMost)
    .sort((a, b) => Number(a.path.includes('/')) - Number(b.path.includes('/')) || (a.path < b.path ? -1 : 1))
  const placeOf = new Map(listed.map(({ path }, place) => [path, place]))
  // Only where something that a page needs is to be sent, too.
  const isNeeding = listed.some(({ kind }) => kind === 'file') && listed.some(({ kind }) => kind === 'page')
  const needs = isNeeding ? await needsOfPages(site, signal) : new Map<string, readonly string[]>()
  const homeFile = homeFileOf(site)
  const homes = new Set(
    comparison.files
      .map(({ path }) => path)
      .filter((path) => path.slice(path.lastIndexOf('/') + 1) === homeFile),
  )
  const tooLong = tooLongFor(
    traits,
    comparison.files.map(({ path }) => path),
  )
  return {
    pageStates,
    /** Names that the host cannot take: how many, and the first of them. */
    tooLong: { count: tooLong.length, first: tooLong[0] ?? '' },
    toSend: send.length,
    bytesToSend: send.reduce((sum, file) => sum + file.sizeBytes, 0),
    files: listed.map(({ path, sizeBytes, state, isHome, kind }) => ({
      ...{ path, sizeBytes, state, isHome, kind },
      needs: (needs.get(path) ?? []).flatMap((needed) => placeOf.get(needed) ?? []),
    })),
    leftovers: comparison.leftovers
      .slice(0, listedAtMost)
      .map((file) => ({ ...file, mayHide: file.state === 'stray' && mayHideHome(file.path, homes) })),
    leftoverCount: comparison.leftovers.filter((file) => file.state === 'to remove').length,
    alsoThere: comparison.leftovers.length,
  }
}

export type ShownComparison = Awaited<ReturnType<typeof showComparison>>
