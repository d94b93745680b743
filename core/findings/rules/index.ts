import type { Rule } from '../rule'
import { deepPage } from './advice/deep-page'
import { manyPages } from './advice/many-pages'
import { sameLabel } from './advice/same-label'
import { singlePageSection } from './advice/single-page-section'
import { droppedMarkup } from './markup/dropped-markup'
import { datableSection } from './dates/datable-section'
import { undatedPage } from './dates/undated-page'
import { unnamedFeed } from './dates/unnamed-feed'
import { emptyHeading } from './markup/empty-heading'
import { fieldWithoutLabel } from './markup/field-without-label'
import { fillerText } from './markup/filler-text'
import { linkWithoutWords } from './markup/link-without-words'
import { markupError } from './markup/markup-error'
import { pageInPage } from './markup/page-in-page'
import { pictureNamedByFile } from './markup/picture-named-by-file'
import { pictureWithoutWords } from './markup/picture-without-words'
import { repeatedId } from './markup/repeated-id'
import { runTogether } from './markup/run-together'
import { skippedLevel } from './markup/skipped-level'
import { tableWithoutHeaders } from './markup/table-without-headers'
import { tagsDoNotMatch } from './markup/tags-do-not-match'
import { vagueLink } from './markup/vague-link'
import { filmWithoutCaptions } from './recordings/film-without-captions'
import { playsAlone } from './recordings/plays-alone'
import { withoutControls } from './recordings/without-controls'
import { unlistedLanguages, unsaidAlternates } from './languages/unlisted-languages'
import { unsaidTranslations } from './languages/unsaid-translations'
import { changedOriginal, repeatedTranslation, untranslated } from './languages/untranslated'
import { hostRemarks } from './names/host-remarks'
import { nameClash } from './names/name-clash'
import { namelessLabel } from './names/nameless-label'
import { secondExtension } from './names/second-extension'
import { pictureSize } from './pictures/picture-size'
import { pictureTooLarge } from './pictures/picture-too-large'
import { unshownPicture } from './pictures/unshown-picture'
import { baseAddress } from './references/base-address'
import { brokenFileReference, brokenStyleReference } from './references/broken-in-file'
import { brokenReference } from './references/broken-reference'
import { fetchedUnsafely } from './references/fetched-unsafely'
import { pictureElsewhere } from './references/picture-elsewhere'
import { leadsAboveSite } from './references/leads-above'
import { linkToItself } from './references/link-to-itself'
import { linkToTrial } from './references/link-to-trial'
import { malformedAddress } from './references/malformed-address'
import { missingPlace } from './references/missing-place'
import { ownAddress } from './references/own-address'
import { ownDiskAddress } from './references/own-disk'
import { sameWords } from './references/same-words'
import { charset } from './skeleton/charset'
import { headerHome } from './skeleton/header-home'
import { noDescription } from './skeleton/no-description'
import { noDoctype } from './skeleton/no-doctype'
import { noDirection } from './skeleton/no-direction'
import { noLanguage } from './skeleton/no-language'
import { otherLanguage } from './skeleton/other-language'
import { templateWords } from './skeleton/template-words'
import { pageHeadings } from './skeleton/page-headings'
import { sameTitle } from './skeleton/same-title'
import { viewport } from './skeleton/viewport'
import { importChain } from './style/import-chain'
import { pageStyleFault } from './style/page-style-fault'
import { styleFault } from './style/style-fault'
import { handMadeMenu } from './template/hand-made-menu'
import { hiddenSlot } from './template/hidden-slot'
import { outsideSlots } from './template/outside-slots'
import { repeatedSlot } from './template/repeated-slot'
import { tooLarge } from './template/too-large'
import { unknownWord } from './template/unknown-word'
import { emptyPage } from './whole/empty-page'
import { heavyPage } from './whole/heavy-page'
import { repeatedTitle } from './whole/repeated-title'
import { sameText } from './whole/same-text'
import { listedErrorPage } from './whole/listed-error-page'
import { unlistedPage } from './whole/unlisted-page'
import { unreachedPage } from './whole/unreached-page'

/** The rules of Checks: of one grade, in the order in which their findings are shown. */
export const checks: readonly Rule[] = [
  tooLarge,
  unknownWord,
  outsideSlots,
  repeatedSlot,
  hiddenSlot,
  brokenReference,
  brokenFileReference,
  malformedAddress,
  fetchedUnsafely,
  pictureElsewhere,
  linkToTrial,
  missingPlace,
  ownDiskAddress,
  baseAddress,
  ownAddress,
  leadsAboveSite,
  secondExtension,
  hostRemarks,
  charset,
  noDoctype,
  noLanguage,
  noDirection,
  otherLanguage,
  templateWords,
  unlistedLanguages,
  untranslated,
  changedOriginal,
  repeatedTranslation,
  viewport,
  sameTitle,
  headerHome,
  handMadeMenu,
  pageInPage,
  pageHeadings,
  markupError,
  tagsDoNotMatch,
  runTogether,
  pictureWithoutWords,
  pictureNamedByFile,
  playsAlone,
  withoutControls,
  filmWithoutCaptions,
  linkWithoutWords,
  emptyHeading,
  fieldWithoutLabel,
  tableWithoutHeaders,
  repeatedId,
  skippedLevel,
  styleFault,
  pageStyleFault,
  brokenStyleReference,
  importChain,
  heavyPage,
  pictureTooLarge,
  unshownPicture,
  pictureSize,
  emptyPage,
  fillerText,
  repeatedTitle,
  sameText,
  unreachedPage,
  listedErrorPage,
  unlistedPage,
  vagueLink,
  sameWords,
  linkToItself,
  droppedMarkup,
  namelessLabel,
  nameClash,
  noDescription,
  unsaidTranslations,
  unsaidAlternates,
  unnamedFeed,
  undatedPage,
]

/** Advice on the plan, which may be taken or left. Reads nothing but the plan. */
export const advice: readonly Rule[] = [manyPages, singlePageSection, deepPage, datableSection, sameLabel]
