import { type PlanFormat, planFormats } from '#core/plan'
import { Pick } from './pick'

const options = (Object.keys(planFormats) as PlanFormat[]).map((value) => ({
  value,
  words: planFormats[value].name,
}))

/** The format a plan is written in, as words of a sentence. */
export function PlanFormatPick({
  format,
  onPick,
  after,
}: {
  format: PlanFormat
  onPick: (format: PlanFormat) => void
  after: string
}) {
  return <Pick label="Format" value={format} options={options} onPick={onPick} after={after} />
}
