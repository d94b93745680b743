import { type Nameable, namesOf } from '#core/naming'
import type { Scheme } from '#core/site'

/** The site's structure is sent when it changes; a scheme that is tried, for each word that is chosen. */
export type NamesRequest =
  | { readonly kind: 'site'; readonly site: Omit<Nameable, 'scheme'> }
  | { readonly kind: 'scheme'; readonly id: number; readonly scheme: Scheme }

export interface NamesAnswer {
  readonly id: number
  /** Path by page id. */
  readonly paths: ReadonlyMap<string, string>
}

let site: Omit<Nameable, 'scheme'> | null = null

addEventListener('message', ({ data }: MessageEvent<NamesRequest>) => {
  if (data.kind === 'site') {
    site = data.site
    return
  }
  if (!site) return
  const { pages } = namesOf({ ...site, scheme: data.scheme })
  const paths = new Map([...pages].map(([id, { path }]) => [id, path]))
  postMessage({ id: data.id, paths } satisfies NamesAnswer)
})
