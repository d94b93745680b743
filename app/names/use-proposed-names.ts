import { useEffect, useRef, useState } from 'react'
import type { Scheme, Site } from '#core/site'
import type { NamesAnswer, NamesRequest } from './names.worker'

/**
 * Every page's path under a scheme that is being tried, worked out beside the interface; null until then.
 * @param ready starts the worker and sends it the site before a scheme is tried
 */
export function useProposedNames(
  site: Site,
  scheme: Scheme | null,
  ready: boolean,
): ReadonlyMap<string, string> | null {
  const worker = useRef<Worker>(null)
  const latest = useRef(0)
  const [paths, setPaths] = useState<ReadonlyMap<string, string> | null>(null)
  const { pages, files, homeId, language } = site

  useEffect(
    () => () => {
      worker.current?.terminate()
      worker.current = null
    },
    [],
  )
  useEffect(() => {
    if (!ready) return
    if (!worker.current) {
      worker.current = new Worker(new URL('./names.worker.ts', import.meta.url), { type: 'module' })
      worker.current.addEventListener('message', ({ data }: MessageEvent<NamesAnswer>) => {
        // Answers to what has been changed again since are of no use.
        if (data.id === latest.current) setPaths(data.paths)
      })
    }
    // A new scheme lets go of the names that were held still under the old one.
    const freed = pages.map((page) => (page.keptName === null ? page : { ...page, keptName: null }))
    worker.current.postMessage({
      kind: 'site',
      site: { pages: freed, files, homeId, language },
    } satisfies NamesRequest)
  }, [pages, files, homeId, language, ready])
  useEffect(() => {
    if (!scheme || !ready) return
    worker.current?.postMessage({ kind: 'scheme', id: ++latest.current, scheme } satisfies NamesRequest)
  }, [scheme, pages, files, homeId, language, ready])

  // The names of the scheme before stand until the new ones are there: no flicker while words are chosen.
  return scheme ? paths : null
}
