import { cleanLabel, type PlanLine } from '../outline'
import {
  asking,
  cellAt,
  detailsOf,
  type Draft,
  isDetail,
  leftOut,
  linesOf,
  plainNode,
  type Read,
  type TableRow,
  unclear,
} from './table-rows'

/** A page in a table of ways down to pages. */
interface WayDraft extends Draft {
  /** Whether a row is its own, and not only one of a page below it. */
  isOwn: boolean
  node: PlanLine['node']
  line: number
  readonly below: WayDraft[]
  readonly byLabel: Map<string, WayDraft>
}

/**
 * Reads rows whose columns are one level each: each row is the way down to a page. Where sections are not said again in each row,
 * those of the row above count.
 * @param at the columns, the top level first
 */
export function byWays(
  first: TableRow,
  header: readonly string[],
  rows: readonly TableRow[],
  at: readonly number[],
): Read {
  const ask = asking(header.map((name, index) => (at.includes(index) ? '' : name)))
  const isSaidAgain = rows.some((row, index) => {
    const top = cellAt(row, at[0]!)
    return index > 0 && top !== '' && top === cellAt(rows[index - 1]!, at[0]!)
  })
  const top = { below: [] as WayDraft[], byLabel: new Map<string, WayDraft>() }
  let open: (WayDraft | undefined)[] = []
  for (const row of rows) {
    const way = at.map((column) => cleanLabel(cellAt(row, column)))
    const begins = way.findIndex((label) => label !== '')
    if (begins < 0) continue
    open = isSaidAgain ? [] : open.slice(0, begins)
    const last = way.findLastIndex((label) => label !== '')
    for (const [level, label] of way.entries()) {
      if (label === '' || level > last) continue
      const parent = open.findLast((one) => one !== undefined) ?? top
      const known = parent.byLabel.get(label)
      const draft: WayDraft =
        known && !(level === last && known.isOwn)
          ? known
          : { line: row.line, node: plainNode(label), isOwn: false, below: [], byLabel: new Map() }
      if (draft !== known) {
        parent.below.push(draft)
        parent.byLabel.set(label, draft)
      }
      if (level === last) {
        draft.isOwn = true
        draft.line = row.line
        draft.node = { label, ...detailsOf(row, ask) }
      }
      open[level] = draft
    }
  }
  return {
    lines: linesOf(top.below),
    notes: [
      'Each row was read as the way down to a page, a column a level.',
      ...leftOut(first, header, (name, index) => at.includes(index) || isDetail(name)),
      ...unclear(rows, header),
    ],
  }
}
