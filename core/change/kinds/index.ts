import type { ChangeKind } from '../kind'
import { dropWords } from './checks/drop-words'
import { keepWords } from './checks/keep-words'
import { putAside } from './checks/put-aside'
import { setMostWeight } from './checks/set-most-weight'
import { takeUp } from './checks/take-up'
import { addFile } from './files/add-file'
import { removeFiles } from './files/remove-files'
import { renameFile } from './files/rename-file'
import { setFile } from './files/set-file'
import { dropAddresses } from './names/drop-addresses'
import { noteAddresses } from './names/note-addresses'
import { releaseNames } from './names/release-names'
import { setScheme } from './names/set-scheme'
import { confirmTranslations } from './page/confirm-translations'
import { moveSlot } from './page/move-slot'
import { renewCopies } from './page/renew-copies'
import { setContent } from './page/set-content'
import { setPageFlag } from './page/set-page-flag'
import { setPageText } from './page/set-page-text'
import { addPages } from './plan/add-pages'
import { bringIn } from './plan/bring-in'
import { duplicatePages } from './plan/duplicate-pages'
import { movePages } from './plan/move-pages'
import { removePages } from './plan/remove-pages'
import { replacePlan } from './plan/replace-plan'
import { setHome } from './plan/set-home'
import { setTranslations } from './plan/set-translations'
import { translatePages } from './plan/translate-pages'
import { setSetting } from './skeleton/set-setting'
import { setOutput } from './skeleton/set-output'
import { addTemplate } from './templates/add-template'
import { chooseTemplate } from './templates/choose-template'
import { removeTemplate } from './templates/remove-template'
import { setTemplate } from './templates/set-template'
import { moveText } from './texts/move-text'
import { replaceWords } from './texts/replace-words'
import { setTemplateField } from './templates/set-template-field'

/** Every kind of change, each with all there is to it. What is accepted of it from outside: `inputs.ts`. */
export const kinds = {
  addFile,
  addPages,
  addTemplate,
  bringIn,
  chooseTemplate,
  confirmTranslations,
  dropAddresses,
  dropWords,
  duplicatePages,
  keepWords,
  movePages,
  moveSlot,
  moveText,
  noteAddresses,
  putAside,
  releaseNames,
  removeFiles,
  removePages,
  removeTemplate,
  renameFile,
  renewCopies,
  replacePlan,
  replaceWords,
  setContent,
  setFile,
  setHome,
  setMostWeight,
  setOutput,
  setPageFlag,
  setPageText,
  setScheme,
  setSetting,
  setTemplate,
  setTemplateField,
  setTranslations,
  takeUp,
  translatePages,
}

export type Kinds = typeof kinds
export type KindName = keyof Kinds

type Named<K, Fields> = { readonly kind: K } & Fields
/** The changes of a register of kinds, as plain data. */
export type ChangeOf<Register> = {
  [K in keyof Register]: Register[K] extends ChangeKind<infer C, infer _R> ? Named<K, C> : never
}[keyof Register]
/** What windows ask for: texts where the changes have the hashes under which they are kept. */
export type RequestOf<Register> = {
  [K in keyof Register]: Register[K] extends ChangeKind<infer _C, infer R> ? Named<K, R> : never
}[keyof Register]

/** Every change a user can make, as plain data. Applied by `edit` and nowhere else. */
export type Change = ChangeOf<Kinds>
export type ChangeRequest = RequestOf<Kinds>
