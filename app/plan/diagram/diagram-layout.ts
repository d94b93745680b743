import { hierarchy, tree as treeLayout } from 'd3'
import { branchOf, type Tree } from '#core/plan'
import type { Page } from '#core/site'

/** A page's box in the diagram; x and y are the left middle, in units of one pixel at scale 1. */
export interface Box {
  readonly page: Page
  readonly x: number
  readonly y: number
  readonly width: number
  /** Pages below that are folded away. */
  readonly hidden: number
  readonly trial: boolean
  readonly isHome: boolean
}

export interface DiagramLine {
  readonly from: Box
  readonly to: Box
}

/** A part of the plane. */
export interface View {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

export interface Diagram {
  readonly boxes: readonly Box[]
  readonly lines: readonly DiagramLine[]
  readonly bounds: View
}

export const boxHeight = 26
const rowGap = 34
const levelGap = 44
const longestShown = 28

/** A label as it stands in a box. */
export const boxLabel = (page: Page): string => {
  const signs = Array.from(page.label)
  return signs.length > longestShown ? `${signs.slice(0, longestShown - 1).join('')}…` : page.label
}

interface Node {
  readonly page: Page
  readonly children: readonly Node[]
  readonly hidden: number
}

/** Lays the plan out from left to right, a column a level (tidy tree; Reingold and Tilford). */
export function layOut(tree: Tree, homeId: string, folded: ReadonlySet<string>): Diagram {
  const nodeOf = (page: Page): Node => {
    const below =
      page.id === homeId ? tree.childrenOf(null).filter((one) => one.id !== homeId) : tree.childrenOf(page.id)
    const isFolded = folded.has(page.id)
    return {
      page,
      children: isFolded ? [] : below.map(nodeOf),
      hidden: isFolded ? branchOf(tree, page.id).length - 1 : 0,
    }
  }
  const root = hierarchy(nodeOf(tree.byId.get(homeId)!), (node) => node.children)
  const placed = treeLayout<Node>()
    .nodeSize([rowGap, 1])
    .separation((a, b) => (a.parent === b.parent ? 1 : 1.35))(root)

  // Columns are as wide as their widest box.
  // The home page is written bold.
  const widthOf = (page: Page) => 18 + Array.from(boxLabel(page)).length * (page.id === homeId ? 8.2 : 7.4)
  const columns: number[] = []
  placed.each((node) => (columns[node.depth] = Math.max(columns[node.depth] ?? 0, widthOf(node.data.page))))
  const lefts = columns.map((_, depth) =>
    columns.slice(0, depth).reduce((sum, width) => sum + width + levelGap, 0),
  )

  const boxOf = new Map(
    placed.descendants().map((node): [string, Box] => {
      const { page, hidden } = node.data
      return [
        page.id,
        {
          page,
          x: lefts[node.depth]!,
          y: node.x,
          width: widthOf(page),
          hidden,
          trial: tree.placeOf.get(page.id)?.trial ?? false,
          isHome: page.id === homeId,
        },
      ]
    }),
  )
  const boxes = [...boxOf.values()]
  const lines = placed.links().map(({ source, target }) => ({
    from: boxOf.get(source.data.page.id)!,
    to: boxOf.get(target.data.page.id)!,
  }))
  const top = Math.min(...boxes.map((box) => box.y)) - boxHeight
  const bottom = Math.max(...boxes.map((box) => box.y)) + boxHeight
  const right = Math.max(...boxes.map((box) => box.x + box.width)) + 40
  return { boxes, lines, bounds: { x: -12, y: top, width: right + 12, height: bottom - top } }
}

/** A line from the right edge of one box to the left edge of another, in two bends. */
export function linePath({ from, to }: DiagramLine): string {
  const start = from.x + from.width
  const middle = to.x - levelGap / 2
  return `M${start},${from.y}H${middle}V${to.y}H${to.x}`
}

/** Room for the number of folded pages behind a box. */
const hiddenWidth = 40

/** The boxes and lines that can be seen in a part of the plane: a large plan has thousands more. */
export function seenIn(diagram: Diagram, { x, y, width, height }: View): Pick<Diagram, 'boxes' | 'lines'> {
  const isSeen = (left: number, top: number, right: number, bottom: number) =>
    left <= x + width && right >= x && top <= y + height && bottom >= y
  return {
    boxes: diagram.boxes.filter((box) =>
      isSeen(box.x, box.y - boxHeight / 2, box.x + box.width + hiddenWidth, box.y + boxHeight / 2),
    ),
    lines: diagram.lines.filter(({ from, to }) =>
      isSeen(from.x + from.width, Math.min(from.y, to.y), to.x, Math.max(from.y, to.y)),
    ),
  }
}
