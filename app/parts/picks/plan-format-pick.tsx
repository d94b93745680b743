import { type PlanForm, type PlanFormat, planForms, planFormats } from '#core/plan'
import { Pick } from './pick'

/** What a plan is written in and read from. */
export const written = Object.keys(planFormats) as PlanFormat[]
/** All that it is read from. */
export const readable = Object.keys(planForms) as PlanForm[]

/** The form a plan is in, as words of a sentence. */
export function PlanFormatPick<Form extends PlanForm>({
  forms,
  format,
  onPick,
  after,
}: {
  forms: readonly Form[]
  format: Form
  onPick: (format: Form) => void
  after: string
}) {
  const options = forms.map((value) => ({ value, words: planForms[value].name }))
  return <Pick label="Format" value={format} options={options} onPick={onPick} after={after} />
}
