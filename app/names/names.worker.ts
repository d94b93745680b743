import { type Nameable, namesOf } from '#core/naming'

/** A site's structure under a scheme that is being tried. */
export interface NamesRequest {
  readonly id: number
  readonly site: Nameable
}

export interface NamesAnswer {
  readonly id: number
  /** Path by page id. */
  readonly paths: ReadonlyMap<string, string>
}

addEventListener('message', ({ data }: MessageEvent<NamesRequest>) => {
  const { pages } = namesOf(data.site)
  const paths = new Map([...pages].map(([id, { path }]) => [id, path]))
  postMessage({ id: data.id, paths } satisfies NamesAnswer)
})
