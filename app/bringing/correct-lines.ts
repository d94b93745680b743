/** A line of a plan that is corrected: how deep it stands, 0 at the top. The home page is the first, and alone. */
export interface PlanLine {
  readonly depth: number
}

/** The place behind a line and all below it. */
function endOf(lines: readonly PlanLine[], index: number): number {
  let end = index + 1
  while (end < lines.length && lines[end]!.depth > lines[index]!.depth) end++
  return end
}

/** Where the line before it at its level begins; -1 where it is the first there. */
function siblingBefore(lines: readonly PlanLine[], index: number): number {
  for (let at = index - 1; at > 0; at--) {
    if (lines[at]!.depth === lines[index]!.depth) return at
    if (lines[at]!.depth < lines[index]!.depth) return -1
  }
  return -1
}

function deepened<L extends PlanLine>(lines: readonly L[], by: number): L[] {
  return lines.map((line) => ({ ...line, depth: line.depth + by }))
}

export type Move = 'up' | 'down' | 'in' | 'out'

/**
 * Moves a line with all below it: among its neighbours, below the one before it, or out behind what it is below.
 * @returns the lines and where it stands now; null where it cannot go there
 */
export function moveLine<L extends PlanLine>(
  lines: readonly L[],
  index: number,
  move: Move,
): { readonly lines: L[]; readonly index: number } | null {
  // Nothing stands above or below the home page.
  if (index < 1 || index >= lines.length) return null
  const end = endOf(lines, index)
  const branch = lines.slice(index, end)
  const before = siblingBefore(lines, index)
  switch (move) {
    case 'in':
      return before < 0
        ? null
        : { lines: [...lines.slice(0, index), ...deepened(branch, 1), ...lines.slice(end)], index }
    case 'out': {
      if (lines[index]!.depth === 0) return null
      let above = index - 1
      while (lines[above]!.depth >= lines[index]!.depth) above--
      const behind = endOf(lines, above)
      return {
        lines: [
          ...lines.slice(0, index),
          ...lines.slice(end, behind),
          ...deepened(branch, -1),
          ...lines.slice(behind),
        ],
        index: behind - branch.length,
      }
    }
    case 'up':
      return before < 0
        ? null
        : {
            lines: [...lines.slice(0, before), ...branch, ...lines.slice(before, index), ...lines.slice(end)],
            index: before,
          }
    case 'down': {
      if (end >= lines.length || lines[end]!.depth !== lines[index]!.depth) return null
      const after = endOf(lines, end)
      return {
        lines: [...lines.slice(0, index), ...lines.slice(end, after), ...branch, ...lines.slice(after)],
        index: index + (after - end),
      }
    }
  }
}
