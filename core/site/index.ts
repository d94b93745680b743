/** The `Site` document: plain data that everything else is computed from. */
export {
  contentsOfOriginals,
  contentsOfPages,
  type Aside,
  type Checking,
  defaultChecking,
  defaultOutput,
  differingTexts,
  mostAsides,
  mostOwnWords,
  emptyHash,
  longestText,
  mainSlot,
  slotOf,
  textsOfPage,
  withSlot,
} from './document'
export type {
  Hash,
  Output,
  Page,
  Site,
  SiteFile,
  SiteSettings,
  SlotText,
  Template,
  TextDifference,
  TextOf,
} from './document'
export { type Arrangement, defaultScheme, type FileKind, type Scheme } from './scheme'
export { checkSite, mostBases, type SiteFault } from './check'
export {
  applyDiff,
  applyDiffs,
  composeDiffs,
  composeFollowing,
  contentsOfDiff,
  type DiffConflict,
  diffSites,
  isEmptyDiff,
  reverseDiff,
  type SiteDiff,
} from './diff'
export { type GivenRole, givenRoles, mayRole, type Right, rights, type Role, roles } from './roles'
export { homeNameOf, homeNames } from './home-names'
export { count, pick } from './words'
export { tableOf } from './table'
export { isOfSystem, mostFileBytes } from './system-files'
