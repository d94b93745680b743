import { decodePlanFile, guessPlanForm, type PlanForm, readPlan } from '#core/plan'

/** What a choice of files offers where a plan is asked for. */
export const planFileTypes = '.txt,.md,.markdown,.csv,.tsv,.opml,.xml,.html,.htm,text/*'

/** A plan from a file of the author's: its text, the format it is in and what was assumed, or why it is none. */
export async function readPlanFile(
  file: File,
): Promise<
  | { readonly text: string; readonly format: PlanForm; readonly notes: readonly string[] }
  | { readonly problem: string }
> {
  const refuse = ({ line, reason }: { line: number; reason: string }) => ({
    problem: `${file.name}, line ${line}: ${reason}`,
  })
  const decoded = decodePlanFile(new Uint8Array(await file.arrayBuffer()))
  if ('refusal' in decoded) return refuse(decoded.refusal)
  const format = guessPlanForm(decoded.text, file.name)
  const read = readPlan(format, decoded.text)
  if ('refusal' in read) return refuse(read.refusal)
  return { text: decoded.text, format, notes: decoded.notes }
}
