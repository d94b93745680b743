import { type Nameable, namesOf } from '#core/naming'
import type { Scheme } from '#core/site'

export type NamesGround = Omit<Nameable, 'scheme'>

/** Path by page id. */
export type NamesAnswer = ReadonlyMap<string, string>

export function namesUnder(site: NamesGround, scheme: Scheme): NamesAnswer {
  const { pages } = namesOf({ ...site, scheme })
  return new Map([...pages].map(([id, { path }]) => [id, path]))
}
