/** The `Site` document: plain data that everything else is computed from. */
export { emptyHash } from './document'
export type { Hash, Page, Site, SiteFile, SiteSettings, Template, TextOf } from './document'
export { type Arrangement, defaultScheme, type FileKind, type Scheme } from './scheme'
export { checkSite, type SiteFault } from './check'
export {
  applyDiff,
  composeDiffs,
  contentsOfDiff,
  type DiffConflict,
  diffSites,
  isEmptyDiff,
  reverseDiff,
  type SiteDiff,
} from './diff'
export { count, pick } from './words'
