import Joi from 'joi'
import { mostLevels } from '#core/plan'
import type { ChangeInput, KeepText } from './input'
import type { ChangeKind } from './kind'
import type { Change, ChangeRequest, KindName, Kinds } from './kinds'
import { dropWords } from './kinds/checks/drop-words.input'
import { keepWords } from './kinds/checks/keep-words.input'
import { putAside } from './kinds/checks/put-aside.input'
import { setMostWeight } from './kinds/checks/set-most-weight.input'
import { takeUp } from './kinds/checks/take-up.input'
import { removeFiles } from './kinds/files/remove-files.input'
import { renameFile } from './kinds/files/rename-file.input'
import { setFile } from './kinds/files/set-file.input'
import { dropAddresses } from './kinds/names/drop-addresses.input'
import { releaseNames } from './kinds/names/release-names.input'
import { setScheme } from './kinds/names/set-scheme.input'
import { confirmTranslations } from './kinds/page/confirm-translations.input'
import { moveSlot } from './kinds/page/move-slot.input'
import { renewCopies } from './kinds/page/renew-copies.input'
import { setContent } from './kinds/page/set-content.input'
import { setPageFlag } from './kinds/page/set-page-flag.input'
import { setPageText } from './kinds/page/set-page-text.input'
import { addPages } from './kinds/plan/add-pages.input'
import { duplicatePages } from './kinds/plan/duplicate-pages.input'
import { movePages } from './kinds/plan/move-pages.input'
import { removePages } from './kinds/plan/remove-pages.input'
import { replacePlan } from './kinds/plan/replace-plan.input'
import { setHome } from './kinds/plan/set-home.input'
import { setTranslations } from './kinds/plan/set-translations.input'
import { translatePages } from './kinds/plan/translate-pages.input'
import { setSetting } from './kinds/skeleton/set-setting.input'
import { setOutput } from './kinds/skeleton/set-output.input'
import { addTemplate } from './kinds/templates/add-template.input'
import { chooseTemplate } from './kinds/templates/choose-template.input'
import { removeTemplate } from './kinds/templates/remove-template.input'
import { setTemplate } from './kinds/templates/set-template.input'
import { moveText } from './kinds/texts/move-text.input'
import { setTemplateField } from './kinds/templates/set-template-field.input'

export { schemeInput } from './kinds/names/set-scheme.input'
export { outputInput } from './kinds/skeleton/set-output.input'
export type { ChangeInput, KeepText } from './input'

type InputOf<Kind> = Kind extends ChangeKind<infer C, infer R> ? ChangeInput<C, R> : never

/** What is accepted of each kind from outside; null for kinds that only the server makes. */
const inputs: { readonly [K in KindName]: InputOf<Kinds[K]> | null } = {
  addFile: null,
  addPages,
  addTemplate,
  bringIn: null,
  chooseTemplate,
  confirmTranslations,
  dropAddresses,
  dropWords,
  duplicatePages,
  keepWords,
  movePages,
  moveSlot,
  moveText,
  noteAddresses: null,
  putAside,
  releaseNames,
  removeFiles,
  removePages,
  removeTemplate,
  renameFile,
  renewCopies,
  replacePlan,
  replaceWords: null,
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

/** Inputs by the name of their kind. */
export type InputRegister = Readonly<Record<string, ChangeInput<never, never> | null>>

type Nested = { readonly pages?: unknown; readonly added?: unknown; readonly children?: unknown }

/** How deep the pages of a change are nested, counted level by level. */
function levelsOf(change: Nested): number {
  const below = (one: Nested | null) => one?.pages ?? one?.added ?? one?.children
  let level: unknown[] = [change]
  for (let count = -1; ; count++) {
    level = level.flatMap((one) => below(one as Nested | null) ?? [])
    if (level.length === 0 || count > mostLevels) return count + 1
  }
}

/** Why what came from outside is no change: told to a log, and to whoever wrote the program that sent it. */
export interface NoChange {
  readonly refused: string
  /** True for pages below pages that go deeper than any plan may. */
  readonly isTooDeep?: true
}

/** Reads what came from outside as a change of a kind of a register. */
export function readRequestBy(register: InputRegister, input: unknown): { readonly kind: string } | NoChange {
  const kind = (input as { kind?: unknown } | null)?.kind
  const known = typeof kind === 'string' && Object.hasOwn(register, kind) ? register[kind] : null
  if (!known) return { refused: 'of no kind that is accepted' }
  // What is nested without end is not looked into: a validator goes as deep as what it is given.
  if (levelsOf(input as Nested) > mostLevels + (known.outerLevels ?? 0))
    return { refused: `nested deeper than ${mostLevels} levels`, isTooDeep: true }
  const { error, value } = Joi.object({
    kind: Joi.string().required(),
    ...(known.fields as Joi.SchemaMap),
  }).validate(input)
  return error ? { refused: error.message } : (value as { kind: string })
}

/** Reads what a window asks for. */
export const readRequest = (input: unknown): ChangeRequest | NoChange =>
  readRequestBy(inputs as unknown as InputRegister, input) as ChangeRequest | NoChange

const inputOf = (request: ChangeRequest) => inputs[request.kind] as ChangeInput<unknown> | null

/** The texts a request brings, and how each has to be read. */
export const textsOfRequest = (request: ChangeRequest) => inputOf(request)?.reads?.(request) ?? []

/** Turns a request into the change, keeping its texts first. */
export async function changeOf(request: ChangeRequest, keep: KeepText): Promise<Change> {
  const made = await inputOf(request)?.make?.(request, keep)
  return (made ? { kind: request.kind, ...(made as object) } : request) as Change
}

export { longestLine } from './input'
export { longestSetting } from './kinds/skeleton/set-setting.input'
