import { useMemo } from 'react'
import type { Scheme, Site } from '#core/site'
import { useWorker } from '../workers/use-worker'
import type { NamesAnswer, NamesGround } from './names.answer'

/**
 * Every page's path under a scheme that is being tried, worked out beside the interface; null until then.
 * The names of the scheme before stand until the new ones are there: no flicker while words are chosen.
 * @param ready starts the worker and sends it the site before a scheme is tried
 */
export function useProposedNames(
  { pages, files, homeId, language, publicAddress, output }: Site,
  scheme: Scheme | null,
  ready: boolean,
): ReadonlyMap<string, string> | null {
  const ground = useMemo(() => {
    if (!ready) return null
    // A new scheme lets go of the names that were held still under the old one.
    const freed = pages.map((page) => (page.keptName === null ? page : { ...page, keptName: null }))
    return { pages: freed, files, homeId, language, publicAddress, output }
  }, [pages, files, homeId, language, publicAddress, output, ready])
  return useWorker<NamesGround, Scheme, NamesAnswer>('names', ground, ready ? scheme : null).answer
}
