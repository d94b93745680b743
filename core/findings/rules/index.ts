import type { Rule } from '../rule'
import { baseAddress } from './base-address'
import { brokenReference } from './broken-reference'
import { deepPage } from './advice/deep-page'
import { hiddenSlot } from './hidden-slot'
import { linkToTrial } from './link-to-trial'
import { manyPages } from './advice/many-pages'
import { markupError } from './markup-error'
import { nameClash } from './name-clash'
import { namelessLabel } from './nameless-label'
import { outsideSlots } from './outside-slots'
import { repeatedSlot } from './repeated-slot'
import { repeatedTitle } from './repeated-title'
import { sameLabel } from './advice/same-label'
import { singlePageSection } from './advice/single-page-section'
import { tagsDoNotMatch } from './tags-do-not-match'
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
  baseAddress,
  markupError,
  tagsDoNotMatch,
  namelessLabel,
  nameClash,
  repeatedTitle,
]

/** Advice on the plan, which may be taken or left. Reads nothing but the plan. */
export const advice: readonly Rule[] = [manyPages, singlePageSection, deepPage, sameLabel]
