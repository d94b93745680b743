import { askOnce } from '../../workers/ask-once'
import type { PlanFileAnswer, PlanFileQuestion } from './plan-file.answer'

/** What a choice of files offers where a plan is asked for. */
export const planFileTypes =
  '.txt,.md,.markdown,.csv,.tsv,.opml,.xml,.html,.htm,.xlsx,.xls,.ods,.docx,.doc,.odt,.rtf,text/*'

/** A plan from a file of the author's, read beside the interface: a spreadsheet is unpacked first. */
export async function readPlanFile(file: File): Promise<PlanFileAnswer> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  const asked = { name: file.name, bytes }
  return askOnce<PlanFileQuestion, PlanFileAnswer>('plan-file', asked, new AbortController().signal).catch(
    () => ({ problem: `${file.name} could not be read.` }),
  )
}
