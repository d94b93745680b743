/** Changes: each one plain data, applied here, with all that it touches. */
export { edit, editBy } from './edit'
export { type Edited, longestLabel, newPage, type Refusal } from './edited'
export type { ChangeKind, Question } from './kind'
export { type Change, type ChangeRequest, kinds } from './kinds'
export { type ReplaceWords, shortened } from './kinds/texts/replace-words'
export {
  fieldsOfPage,
  fieldsOfSite,
  isSaid,
  type OwnedText,
  ownerKey,
  type SaidOfPage,
  type SaidOfSite,
  type WordsOwner,
} from './kinds/texts/words-owner'
export type { PageTextField } from './kinds/page/set-page-text'
export type { SettingField } from './kinds/skeleton/set-setting'
export { planEdit, type PlanEdit, type WantedPlan } from './kinds/plan/plan-edit'
export { untranslatedFrom } from './kinds/plan/translate-pages'
export type { BringIn, BroughtAnew } from './kinds/plan/bring-in'
export type { MovedPlaces } from './moved-places'
export type { NewPage, PlannedPage } from './new-page'
export {
  correctOwnNames,
  newSite,
  type NewSite,
  plannedFrom,
  readNewPlan,
  rewritesOfNewSite,
  withIds,
} from './from-text/new-site'
export { type HiddenSlot, hiddenSlots } from './hidden-slots'
export {
  findMoved,
  findRewrites,
  movesAnything,
  type Moved,
  type Rewrite,
  type ToldOfTexts,
  withRewritten,
} from './rewrites'
export { type Ripple, rippleOf } from './ripple'
export { isTyped, placesOf, questionOf, rightFor, shownOf, titleOf, toldOfTexts } from './told'
export { type SteppedSite, takeStep, textNow, type TextToMerge } from './step'
export {
  type EditedPlan,
  type LineMark,
  understandPlan,
  type UnderstoodPlan,
} from './from-text/understand-plan'
export { type PartHeading, partHeadings } from './splitting/parts'
export {
  type ChosenPart,
  isWithin,
  joinRequest,
  pieceRequest,
  splitRequest,
  type TextOfPage,
} from './splitting/requests'
