import { decodePlanFile, guessPlanForm, type PlanForm, planForms, readPlan } from '#core/plan'
import { Problem } from '#core/problems'
import { planInDocument } from '#core/texts'

export interface PlanFileQuestion {
  readonly name: string
  readonly bytes: Uint8Array
}
/** A plan from a file: its text, the form it is in, what it is called in a sentence, and what was assumed; or why it is none. */
export type PlanFileAnswer =
  | {
      readonly text: string
      readonly format: PlanForm
      readonly readAs: string
      readonly notes: readonly string[]
    }
  | { readonly problem: string }

/** How a ZIP begins, which newer documents are (APPNOTE 4.3.7), a document of an older form ([MS-CFB] §2.2), and RTF. */
const beginnings = ['PK', '\xd0\xcf', '{\\rtf']
const isDocument = (bytes: Uint8Array): boolean =>
  beginnings.some((beginning) => [...beginning].every((sign, at) => bytes[at] === sign.charCodeAt(0)))

async function textOf({ name, bytes }: PlanFileQuestion): Promise<PlanFileAnswer> {
  if (isDocument(bytes)) {
    const { text, isTable } = await planInDocument(bytes)
    const format = isTable ? 'csv' : guessPlanForm(text)
    // Nobody who chose a spreadsheet thinks of CSV.
    return { text, format, readAs: isTable ? 'a table' : planForms[format].name, notes: [] }
  }
  const decoded = decodePlanFile(bytes)
  if ('refusal' in decoded)
    return { problem: `${name}, line ${decoded.refusal.line}: ${decoded.refusal.reason}` }
  const format = guessPlanForm(decoded.text, name)
  return { ...decoded, format, readAs: planForms[format].name }
}

/** Reads a plan from a file of any kind that people have one in. */
export async function planOfFile(_: unknown, question: PlanFileQuestion): Promise<PlanFileAnswer> {
  try {
    const found = await textOf(question)
    if ('problem' in found) return found
    const read = readPlan(found.format, found.text)
    return 'refusal' in read
      ? { problem: `${question.name}, line ${read.refusal.line}: ${read.refusal.reason}` }
      : found
  } catch (error) {
    if (error instanceof Problem) return { problem: `${question.name}: ${error.message}` }
    throw error
  }
}
