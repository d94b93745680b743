/** The plan: the tree of pages, and the plan as indented text. */
export {
  ancestorsOf,
  branchOf,
  compareSiblings,
  lastUnder,
  type Place,
  realPlaces,
  type Tree,
  treeOf,
} from './tree'
export { type Languages, languagesOf } from './languages'
export {
  heldAgainstOriginals,
  originalOf,
  type TranslationPair,
  type Translations,
  translationsOf,
  withTranslations,
} from './translations'
export {
  cleanLabel,
  mostLevels,
  type Outline,
  type OutlineNode,
  type PageDetails,
  pageDetails,
  type PlanRefusal,
  readOutline,
  walkOutline,
  writeOutline,
} from './outline'
export { planSite, type SitePlan } from './home-of-plan'
export { likeness, type MatchedLine, matchPlan, type PlanMatch } from './match'
export {
  decodePlanFile,
  guessPlanForm,
  isWritten,
  type PlanForm,
  planForms,
  type PlanFormat,
  planFormats,
  readPlan,
  writePlan,
} from './formats'
export { planDifferences, type PlanDifferences } from './plan-differences'
export { longestIncreasing } from './order'
export { outlineOfSite } from './outline-of-site'
