/** Changes: each one plain data, applied here, with all that it touches. */
export type { Change, NewPage, PageTextField, PlannedPage, Refusal } from './change'
export { edit, type Edited, longestLabel } from './edit'
export { correctOwnNames, newSite, type NewSite, plannedFrom, readNewPlan, withIds } from './new-site'
export { copiesOf, findMoved, findRewrites, type Moved, type Rewrite } from './rewrites'
export { type Ripple, rippleOf } from './ripple'
export { type EditedPlan, type LineMark, understandPlan, type UnderstoodPlan } from './understand-plan'
