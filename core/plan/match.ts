import type { Page, Site } from '#core/site'
import { type OutlineNode, walkOutline } from './outline'
import { treeOf } from './tree'

/** A line of an edited plan and the page it is taken for; null for a page that is new. */
export interface MatchedLine {
  readonly node: OutlineNode
  readonly depth: number
  readonly pageId: string | null
}

/** How an edited plan is understood: a page for each line, and the pages no line stands for. */
export interface PlanMatch {
  readonly lines: readonly MatchedLine[]
  readonly removed: readonly string[]
}

/** Labels at least this alike are taken for a renamed page where nothing else speaks for it. */
const alikeEnough = 0.5
/** Pairs of a line and a page that are compared at once; about a second's work. */
const mostCompared = 1_000_000
const keyOf = (label: string) => label.toLowerCase()

/** A label made ready for comparing: in lower case, and its pairs of letters as sorted numbers. */
interface Compared {
  readonly key: string
  readonly pairs: Uint32Array
}

function comparedOf(label: string): Compared {
  const key = keyOf(label)
  const pairs = new Uint32Array(Math.max(0, key.length - 1))
  for (let at = 0; at < pairs.length; at++) pairs[at] = key.charCodeAt(at) * 0x10000 + key.charCodeAt(at + 1)
  return { key, pairs: pairs.sort() }
}

/** How alike two labels are, from 0 to 1: the share of letter pairs they have in common (Sørensen–Dice). */
export const likeness = (a: string, b: string): number => likenessOf(comparedOf(a), comparedOf(b))

function likenessOf(a: Compared, b: Compared): number {
  if (a.key === b.key) return 1
  const [one, other] = [a.pairs, b.pairs]
  if (one.length === 0 || other.length === 0) return 0
  let shared = 0
  for (let i = 0, j = 0; i < one.length && j < other.length;) {
    if (one[i] === other[j]) {
      shared++
      i++
      j++
    } else if (one[i]! < other[j]!) i++
    else j++
  }
  return (2 * shared) / (one.length + other.length)
}

/**
 * Finds for each line of an edited plan the page it stands for, by comparing the two trees, never by
 * line number: first equal labels under equal parents, then equal labels that moved, then renamed
 * lines between neighbours that are known, then sections known by what stands under them.
 * @param fixed pairs settled by the author, line index to page id (null: new)
 */
export function matchPlan(
  site: Pick<Site, 'pages' | 'homeId'>,
  nodes: readonly OutlineNode[],
  fixed: ReadonlyMap<number, string | null> = new Map(),
): PlanMatch {
  const tree = treeOf(site)
  const lines = walkOutline(nodes)
  const indexOf = new Map(lines.map(({ node }, index) => [node, index]))
  const parentOf: number[] = new Array<number>(lines.length).fill(-1)
  lines.forEach(({ node }, index) => {
    for (const child of node.children) parentOf[indexOf.get(child)!] = index
  })
  const childLines = (parent: number) =>
    (parent < 0 ? nodes : lines[parent]!.node.children).map((node) => indexOf.get(node)!)

  const pageOf = new Map<number, string>()
  const lineOf = new Map<string, number>()
  const settledNew = new Set([...fixed].flatMap(([line, id]) => (id === null ? [line] : [])))
  const pair = (line: number, id: string) => {
    pageOf.set(line, id)
    lineOf.set(id, line)
  }
  const freeLine = (line: number) => !pageOf.has(line) && !settledNew.has(line)
  const freePage = (id: string) => !lineOf.has(id)
  for (const [line, id] of fixed) if (id !== null && tree.byId.has(id) && freePage(id)) pair(line, id)

  /** Pages under a line's page, or at the top level. */
  const childPages = (parent: number): readonly Page[] => {
    if (parent < 0) return tree.childrenOf(null).filter((page) => page.id !== site.homeId)
    const id = pageOf.get(parent)
    return id === undefined ? [] : tree.childrenOf(id)
  }

  // 1. Top down: equal labels under the same parent, in order.
  const sameUnder = (parent: number) => {
    const byLabel = new Map<string, string[]>()
    for (const page of childPages(parent)) {
      if (!freePage(page.id)) continue
      const list = byLabel.get(keyOf(page.label))
      if (list) list.push(page.id)
      else byLabel.set(keyOf(page.label), [page.id])
    }
    for (const line of childLines(parent)) {
      const id = freeLine(line) ? byLabel.get(keyOf(lines[line]!.node.label))?.shift() : undefined
      if (id) pair(line, id)
    }
  }
  sameUnder(-1)
  for (let line = 0; line < lines.length; line++) sameUnder(line)

  // 2. A label that is left once on each side has moved; of several, those with most in common around them.
  const leftPages = new Map<string, string[]>()
  for (const { page } of tree.places)
    if (page.id !== site.homeId && freePage(page.id)) {
      const list = leftPages.get(keyOf(page.label))
      if (list) list.push(page.id)
      else leftPages.set(keyOf(page.label), [page.id])
    }
  lines.forEach(({ node }, line) => {
    const list = freeLine(line) ? leftPages.get(keyOf(node.label)) : undefined
    if (!list?.length) return
    const childLabels = new Set(node.children.map((child) => keyOf(child.label)))
    const common = (id: string) =>
      tree.childrenOf(id).filter((child) => childLabels.has(keyOf(child.label))).length
    const best = list.length === 1 ? list[0]! : list.reduce((a, b) => (common(b) > common(a) ? b : a))
    list.splice(list.indexOf(best), 1)
    pair(line, best)
  })

  // 3. A section whose pages are known is known by them, whatever it is called now.
  for (let line = lines.length - 1; line >= 0; line--) {
    if (!freeLine(line)) continue
    const votes = new Map<string, number>()
    let known = 0
    for (const child of childLines(line)) {
      const id = pageOf.get(child)
      if (id === undefined) continue
      known += 1
      const { parentId } = tree.byId.get(id)!
      if (parentId !== null && freePage(parentId)) votes.set(parentId, (votes.get(parentId) ?? 0) + 1)
    }
    const best = [...votes].sort((a, b) => b[1] - a[1])[0]
    // Most of what is known here came from there, and most of what was there came here.
    if (best && best[1] * 2 > known && best[1] * 2 >= tree.childrenOf(best[0]).length) pair(line, best[0])
  }

  // 4. Renamed in place: in each gap between known neighbours, the likest first, and where as many
  //    lines as pages are left, one for one.
  const inPlace = (parent: number) => {
    const pages = childPages(parent)
    const at = new Map(pages.map((page, index) => [page.id, index]))
    // Lines whose pages come from elsewhere are no neighbours here.
    const siblings = childLines(parent).filter((line) => !pageOf.has(line) || at.has(pageOf.get(line)!))
    for (let from = 0; from < siblings.length;) {
      let to = from
      while (to < siblings.length && !pageOf.has(siblings[to]!)) to++
      const before = from === 0 ? -1 : (at.get(pageOf.get(siblings[from - 1]!)!) ?? null)
      const after = to === siblings.length ? pages.length : (at.get(pageOf.get(siblings[to]!)!) ?? null)
      if (before !== null && after !== null && before < after) {
        const gapLines = siblings.slice(from, to).filter(freeLine)
        const gapPages = pages.slice(before + 1, after).filter((page) => freePage(page.id))
        pairLikest(gapLines, gapPages, gapLines.length === gapPages.length ? 0 : alikeEnough)
      }
      from = to + 1
    }
  }
  const pairLikest = (gapLines: readonly number[], gapPages: readonly Page[], least: number) => {
    // One for one in order is the plain case, and spares comparing each with each.
    if (least === 0) {
      gapLines.forEach((line, index) => pair(line, gapPages[index]!.id))
      return
    }
    // Each with each takes too long where thousands are left on both sides: those stay added and removed.
    if (gapLines.length * gapPages.length > mostCompared) return
    const scores: { line: number; id: string; score: number }[] = []
    const candidates = gapPages.map(({ id, label }) => ({ id, label: comparedOf(label) }))
    for (const line of gapLines) {
      const label = comparedOf(lines[line]!.node.label)
      for (const { id, label: other } of candidates) {
        const score = likenessOf(label, other)
        if (score >= least) scores.push({ line, id, score })
      }
    }
    scores.sort((a, b) => b.score - a.score)
    for (const { line, id } of scores) if (freeLine(line) && freePage(id)) pair(line, id)
  }
  const downwards = () => {
    inPlace(-1)
    for (let line = 0; line < lines.length; line++) {
      // Known only now: its pages can be found under it as in the first step.
      sameUnder(line)
      inPlace(line)
    }
  }
  downwards()

  // 5. What is left and alike was renamed and moved at once.
  const restLines = lines.flatMap((_, line) => (freeLine(line) ? [line] : []))
  const restPages = tree.places
    .map(({ page }) => page)
    .filter((page) => page.id !== site.homeId && freePage(page.id))
  pairLikest(restLines, restPages, 0.6)
  downwards()

  return {
    lines: lines.map(({ node, depth }, line) => ({ node, depth, pageId: pageOf.get(line) ?? null })),
    removed: restPages.filter((page) => freePage(page.id)).map((page) => page.id),
  }
}
