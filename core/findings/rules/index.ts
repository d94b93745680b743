import type { Rule } from '../rule'
import { baseAddress } from './references/base-address'
import { brokenReference } from './references/broken-reference'
import { deepPage } from './advice/deep-page'
import { droppedMarkup } from './markup/dropped-markup'
import { linkWithoutWords } from './markup/link-without-words'
import { pictureWithoutWords } from './markup/picture-without-words'
import { repeatedId } from './markup/repeated-id'
import { skippedLevel } from './markup/skipped-level'
import { missingPlace } from './references/missing-place'
import { ownDiskAddress } from './references/own-disk'
import { sameText } from './whole/same-text'
import { unreachedPage } from './whole/unreached-page'
import { hiddenSlot } from './hidden-slot'
import { linkToTrial } from './references/link-to-trial'
import { manyPages } from './advice/many-pages'
import { markupError } from './markup/markup-error'
import { nameClash } from './name-clash'
import { namelessLabel } from './nameless-label'
import { outsideSlots } from './outside-slots'
import { repeatedSlot } from './repeated-slot'
import { repeatedTitle } from './repeated-title'
import { sameLabel } from './advice/same-label'
import { singlePageSection } from './advice/single-page-section'
import { tagsDoNotMatch } from './markup/tags-do-not-match'
import { tooLarge } from './too-large'
import { unknownWord } from './unknown-word'

/** The rules of Checks, in the order in which findings are shown. */
export const checks: readonly Rule[] = [
  tooLarge,
  unknownWord,
  outsideSlots,
  repeatedSlot,
  hiddenSlot,
  brokenReference,
  linkToTrial,
  missingPlace,
  ownDiskAddress,
  baseAddress,
  markupError,
  tagsDoNotMatch,
  pictureWithoutWords,
  linkWithoutWords,
  repeatedId,
  skippedLevel,
  droppedMarkup,
  namelessLabel,
  nameClash,
  repeatedTitle,
  sameText,
  unreachedPage,
]

/** Advice on the plan, which may be taken or left. Reads nothing but the plan. */
export const advice: readonly Rule[] = [manyPages, singlePageSection, deepPage, sameLabel]
