/** Templates: slots, generated parts and values; one page's data and a template make its HTML. */
export { compileTemplate, mostParts } from './compile'
export type { CompiledTemplate } from './compiled'
export type { Unknown } from './unknown'
export { entryValues, expression, translationValues, valueNames } from './value-names'
export { type Composed, fillsOf, pieceAt } from './compose'
export { contextOf, type SiteContext } from './context'
export { defaultTemplate, defaultTitlePattern } from './default-template'
export { generatedSignature, keepsLanguage, pageTitle } from './generated'
export {
  type Attributes,
  type Entry,
  type GeneratedPart,
  homeFor,
  lookAttributes,
  marks,
  type PartAttribute,
  parts,
} from './parts'
export { whichEntries } from './pattern'
export { addressFrom, addressingOf, homeFileOf, isErrorPage, publicPathOf } from './addressing'
export { outputReference, planReference } from './output-reference'
export { placeContent, type SlotContent } from './place-content'
export { type Origin, renderPage, type Trace } from './render'
export { feedAddress, fullTitle, pageAddress } from './values'
export { listLanguages, madeFeed, namesOwnFeed, sayFeed, sayTranslations } from './usual-edits'
export { givesOutWhole } from './gives-whole'
export { inheritedTemplate, templateChoices } from './choices'
export { SiteTemplates } from './site-templates'
export {
  type HeadPart,
  type PlacedSkeleton,
  readSkeleton,
  type ScriptUse,
  type ScriptRuns,
  type Skeleton,
} from './skeleton/read-skeleton'
export { fitsPhones, type SkeletonChange, writeSkeleton } from './skeleton/write-skeleton'
export {
  partEdit,
  type PartKind,
  partKinds,
  removePart,
  setPartAttributes,
  type WrittenPart,
  writtenParts,
} from './skeleton/written-parts'
export { writeEntries } from './skeleton/written-entries'
export { generatedWeight, mostPageBytes, mostSiteBytes, weightBound, weightRefusal } from './weight'
export { hasSlot, templateOfDesign } from './from-trial'
export { inLanguage, type OtherWord, wordsInOther } from './wording/in-language'
