import { pageAndBelow, stepSign } from '../guess-form'
import { cleanLabel, nestLines, type Outline, type PlanLine, type PlanRefusal } from '../outline'

interface Draft {
  readonly line: number
  readonly below: Map<string, Draft>
}

/** The ways that a line tells: one, or one to each page that it names below the first. */
function waysIn(line: string, parting: RegExp): readonly (readonly string[])[] {
  const plain = line.replace(/\s+/gu, ' ').trim()
  const [, page, below] = pageAndBelow.exec(plain) ?? []
  if (page === undefined || parting.test(plain)) return [plain.split(parting)]
  return below!.split(',').map((one) => [page, one.replace(/\.$/, '')])
}

/** Reads a plan from the ways down to its pages, one a line: `Home > Visit > Getting here`, or `Visit: Getting here, Prices`. */
export function readWaysPlan(text: string): Outline | { refusal: PlanRefusal } {
  const top: Draft = { line: 0, below: new Map() }
  const given = text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/)
  const spaced = new RegExp(stepSign, 'u')
  // A slash parts steps without spaces, too, where no line has another sign.
  const parting = given.some((line) => spaced.test(line)) ? spaced : /\//
  for (const [index, line] of given.entries())
    for (const way of waysIn(line, parting)) {
      let at = top
      for (const step of way) {
        const label = cleanLabel(step.replace(/^[-*+•]\s/u, ''))
        if (label === '') continue
        let next = at.below.get(label)
        if (!next) at.below.set(label, (next = { line: index + 1, below: new Map() }))
        at = next
      }
    }
  const lines: PlanLine[] = []
  const open = [[...top.below].reverse()]
  while (open.length > 0) {
    const next = open[open.length - 1]!.pop()
    if (!next) {
      open.pop()
      continue
    }
    const [label, { line, below }] = next
    lines.push({ line, columns: open.length, node: { label, trial: false, inMenus: true } })
    open.push([...below].reverse())
  }
  if (lines.length === 0) return { refusal: { line: 1, reason: 'No line of this text has a label.' } }
  const nested = nestLines(lines)
  return { ...nested, notes: ['Each line was read as the way down to a page.', ...nested.notes] }
}
