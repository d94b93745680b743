/** What is wrong or risky in a site, with where, why and how to mend it. */
export { adviseOnPlan, findBy, findFindings, type FindingSources, ruleOf } from './find'
export { isGrave, withoutAside } from './aside'
export type { EditedCopy, Finding, FindingPlace, Grade, Mend, Rule, ShownColours } from './rule'
export { faultsInText, type TypedAs, type TypedFault } from './as-typed'
export { findFollowed, type Followed, outsideAddresses, type OutsideSources } from './outside/addresses'
export { type BuiltFault, builtFindings } from './built/faults'
export { colourFault } from './built/colour-faults'
