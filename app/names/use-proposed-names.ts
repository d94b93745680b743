import { useEffect, useRef, useState } from 'react'
import type { Scheme, Site } from '#core/site'
import type { NamesAnswer, NamesRequest } from './names.worker'

/** Every page's path under a scheme that is being tried, worked out beside the interface; null until then. */
export function useProposedNames(site: Site, scheme: Scheme | null): ReadonlyMap<string, string> | null {
  const worker = useRef<Worker>(null)
  const latest = useRef(0)
  const [answer, setAnswer] = useState<{ scheme: Scheme; paths: ReadonlyMap<string, string> } | null>(null)

  useEffect(() => () => worker.current?.terminate(), [])
  useEffect(() => {
    if (!scheme) return
    const made = (worker.current ??= new Worker(new URL('./names.worker.ts', import.meta.url), {
      type: 'module',
    }))
    const id = ++latest.current
    const hear = ({ data }: MessageEvent<NamesAnswer>) => {
      // Answers to what has been changed again since are of no use.
      if (data.id === id && id === latest.current) setAnswer({ scheme, paths: data.paths })
    }
    made.addEventListener('message', hear)
    const { pages, files, homeId, language } = site
    // A new scheme lets go of the names that were held still under the old one.
    const freed = pages.map((page) => (page.keptName === null ? page : { ...page, keptName: null }))
    made.postMessage({ id, site: { pages: freed, files, homeId, language, scheme } } satisfies NamesRequest)
    return () => made.removeEventListener('message', hear)
  }, [site, scheme])

  // The names of the scheme before stand until the new ones are there: no flicker while words are chosen.
  return scheme && answer ? answer.paths : null
}
