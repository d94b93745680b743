/** The `Site` document: plain data that everything else is computed from. */
export { emptyHash } from './document'
export type { FileKind, Hash, Page, Site, SiteFile, SiteSettings, Template, TextOf } from './document'
export { type Arrangement, defaultScheme, type Scheme } from './scheme'
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
