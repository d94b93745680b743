import { pageChildren } from './page-children'
import { pageLatest } from './page-latest'
import { pageLanguages } from './page-languages'
import { pageNeighbours } from './page-neighbours'
import type { GeneratedPart } from './part'
import { siteMenu } from './site-menu'
import { siteTrail } from './site-trail'

export { homeFor, isSomeHome, lookAttributes, marks } from './part'
export type { Attributes, Entry, GeneratedPart, PartAttribute } from './part'

/** Every generated part. */
export const parts: readonly GeneratedPart[] = [
  siteMenu,
  siteTrail,
  pageChildren,
  pageLatest,
  pageNeighbours,
  pageLanguages,
]
