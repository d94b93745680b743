/** Changes: each one plain data, applied here, with all that it touches. */
export type { Change, NewPage, PageTextField, PlanEdit, PlannedPage, Refusal } from './change'
export { edit } from './edit'
export { type Edited, longestLabel } from './edited'
export { correctOwnNames, newSite, type NewSite, plannedFrom, readNewPlan, withIds } from './new-site'
export { planEdit, type WantedPlan } from './replace-plan'
export { copiesOf, findMoved, findRewrites, type Moved, type Rewrite } from './rewrites'
export { type Ripple, rippleOf } from './ripple'
export { type EditedPlan, type LineMark, understandPlan, type UnderstoodPlan } from './understand-plan'
