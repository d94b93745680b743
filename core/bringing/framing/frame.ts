import type { Range } from '#core/markup'
import type { FoundPart } from './generated-of'
import type { OutlineNode } from '../reading/outline'
import { framing, ofTables } from '../reading/page-outline'
import { folderOf } from '../brought'
import { charsetKey, descriptionKey } from '../reading/page-tree'
import { byFrame, isAround, isFixed } from './by-frame'
import type { Gap, Group, PlacedPart } from './group'
import { layoutCells } from './layout'
import { type FrameMark, marksOn, type Sides } from './frame-marks'
import { type ReadPage, referencesWithin } from '../reading/read-page'
import { matchingKeys } from './matching-keys'
import { ownAttributes, ownOf } from './own-attributes'
import { saidValues } from './said-values'
import { unsoundIn } from './sound'

/** A stretch without the white space at its ends. */
function trimmed(text: string, { start, end }: Range): Range {
  const inner = text.slice(start, end)
  const lead = inner.length - inner.trimStart().length
  return lead === inner.length
    ? { start, end: start }
    : { start: start + lead, end: start + inner.trimEnd().length }
}

/** Whether a stretch has references that lead elsewhere from another folder, however alike they are written there. */
function leadsByFolder(page: ReadPage, range: Range): boolean {
  for (const { href } of referencesWithin(page, range))
    if (!/^([a-z][a-z0-9+.-]*:|[/#?]|$)/i.test(href.trim())) return true
  return false
}

/** The element that a stretch stands in; its range in the model, null where a slot cannot take it in. */
interface Holder {
  readonly name: string
  readonly isMain: boolean
  readonly range: Range | null
}

/** Elements within one another that a frame is looked for in: what stands deeper is one thing as a whole. */
const deepest = 100
/** Attributes of its own that a page of one frame has at the most. */
const mostOwn = 12

/** What slots in an element are called after: its name, where all pages give it that, else its tag. */
function holderName(nodes: readonly OutlineNode[]): string {
  const { name, tagName } = nodes[0]!
  const isShared = nodes.every((node) => node.name === name)
  return (isShared && /^[a-z][\w-]*/i.exec(name ?? '')?.[0]) || tagName!
}

/** Elements whose inside is taken whole. */
const whole = new Set(['script', 'style', 'textarea', 'select', 'svg', 'math', 'pre', 'table'])

const isWritten = (nodes: readonly OutlineNode[]): boolean => nodes.every(({ inside }) => inside !== null)

/** Whether elements that differ can be looked into. */
const hasInside = (nodes: readonly OutlineNode[]): boolean =>
  isWritten(nodes) && !whole.has(nodes[0]!.tagName ?? '')

/** What is in an element; rows stand in a table where nobody wrote what they are in (HTML §13.2.6.4.9). */
const childrenIn = ({ children }: OutlineNode): readonly OutlineNode[] =>
  children.some(({ tagName, inside }) => tagName === 'tbody' && inside === null)
    ? children.flatMap((one) => (one.tagName === 'tbody' && one.inside === null ? one.children : [one]))
    : children

/**
 * Where a group of pages that share their frame differ. Children are aligned by the start tags that stand
 * once in each page and in one order; between them, and within those that differ, is what a page fills in.
 * @param known elements that generated parts stand for; a page may be without one
 * @param marks what their author said of some elements: what belongs to a slot is no anchor, what belongs to the
 * frame is one
 */
function alignGroup(
  group: readonly ReadPage[],
  known: readonly FoundPart[],
  nameOf: (pageId: string) => string,
  marks: readonly FrameMark[],
): Group {
  const gaps: Gap[] = []
  const marked = marksOn(group, marks)
  const placed: PlacedPart[] = []
  const around = ownAttributes(group)
  const own = [...(around ?? [])]
  /** Elements that are looked into, one within the other. */
  let depth = 0
  const keyOf = (node: OutlineNode) => (around && isAround(node) ? `<${node.tagName}>` : node.key)
  const said = saidValues(group, nameOf)
  const ownValues = [descriptionKey, charsetKey, ...said.keys()].map((key) => ({ key, html: '' }))
  const partOf = new Map([...known, ...ownValues].map((part) => [part.key, part]))
  const gap = (holder: Holder, ranges: readonly Range[], sides: Sides) => {
    const cut = ranges.map((range, index) => trimmed(group[index]!.text, range))
    const texts = cut.map(({ start, end }, index) => group[index]!.text.slice(start, end))
    const isOwn = marked.isIn(cut, 'slot')
    const isAlike = texts.every((text) => text === texts[0])
    if (!isOwn && isAlike && (isOneFolder || !leadsByFolder(group[0]!, cut[0]!))) return
    gaps.push({
      holder: holder.name,
      isMain: holder.isMain,
      ranges: cut,
      edges: marked.edgesOf(cut, texts, holder.range, sides),
    })
  }

  const isOneFolder = group.every(({ path }) => folderOf(path) === folderOf(group[0]!.path))
  const isBlankIn = (index: number, start: number, end: number): boolean =>
    group[index]!.text.slice(start, end).trim() === ''
  /** Whether a part stands in an element, or in the cells and rows of a table that it is. */
  const hasPart = ({ children }: OutlineNode): boolean =>
    children.some(
      (one) => (one.list && partOf.has(one.key)) || (ofTables.test(one.tagName ?? '') && hasPart(one)),
    )
  /** Whether they can be: a table is one thing, but for one that has a part in it. */
  const canLookInto = (nodes: readonly OutlineNode[]): boolean =>
    nodes[0]!.tagName === 'table' ? isWritten(nodes) && nodes.every(hasPart) : hasInside(nodes)
  /** Whether elements that differ are looked into. */
  const holdsParts = (nodes: readonly OutlineNode[]): boolean => {
    const [first] = nodes
    if (!first || first.tagName === null) return false
    if (framing.test(first.tagName) || /^(head|title)$/.test(first.tagName)) return true
    if (nodes.every(hasPart)) return true
    return first.tagName === 'h1' && nodes.every(({ says }, index) => says === nameOf(group[index]!.id))
  }
  const align = (
    lists: readonly (readonly OutlineNode[])[],
    inside: readonly Range[],
    holder: Holder,
  ): void => {
    const sideOf = ({ part, ranges }: PlacedPart) => (part.html === '' ? null : ranges[0]!)
    const { keys, differing } = matchingKeys(lists, keyOf, own.length < mostOwn)
    const places = keys.map((each) => {
      const once = new Map<string, number>()
      for (const [at, key] of each.entries()) once.set(key, once.has(key) ? -1 : at)
      return once
    })
    let last = lists.map(() => -1)
    let from = inside.map(({ start }) => start)
    /** Parts since the last anchor: where one is missing, what stands around it is one stretch. */
    let between: PlacedPart[] = []
    /** The anchor before, and elements after it that could be some, in the model. */
    let anchor: Range | null = null
    let passed: Range[] = []
    const stretchesUpTo = (ends: readonly number[], next: Range | null) => {
      let cursor = from
      for (const [index, part] of [...between, null].entries()) {
        // Where nothing stands before a part, nothing does in a page that is without it either.
        const begins = cursor
        const isFirst = part?.ranges.every(
          (range, at) => range === null || isBlankIn(at, begins[at]!, range.start),
        )
        const stops = ends.map((end, at) => {
          const own = part?.ranges[at]
          if (own) return own.start
          if (isFirst) return begins[at]!
          const next = between.slice(index).find((one) => one.ranges[at])
          return next?.ranges[at]?.start ?? end
        })
        gap(
          holder,
          begins.map((start, at) => ({ start, end: Math.max(start, stops[at]!) })),
          {
            before: index > 0 ? sideOf(between[index - 1]!) : anchor,
            after: part ? sideOf(part) : next,
            within: passed,
          },
        )
        cursor = stops.map((stop, at) => part?.ranges[at]?.end ?? stop)
      }
      placed.push(...between)
      between = []
      passed = []
      anchor = next
    }
    for (const key of places[0]!.keys()) {
      const at = places.map((once) => once.get(key) ?? -1)
      const part = partOf.get(key)
      if (at.some((place, index) => place <= last[index]! && !(part && place < 0))) continue
      const nodes = at.map((place, index) => (place < 0 ? null : lists[index]![place]!))
      const ranges = nodes.map((node) => node && node.range)
      if (nodes.some((node, index) => node && !ranges[index])) continue
      const mark = marked.of(ranges)
      if (mark === 'slot') continue
      const next = at.map((place, index) => Math.max(place, last[index]!))
      if (part) {
        between.push({ part, ranges })
        last = next
        continue
      }
      const found = ranges as Range[]
      const both = nodes as OutlineNode[]
      const differs = both.some(({ digest }) => digest !== both[0]!.digest)
      // A paragraph that each page has one of is no part of a frame, unless its author says so; a heading is, where
      // it is the label.
      const within = inside.map(({ start, end }) => end - start)
      const cells = differs && depth < deepest ? layoutCells(both, within) : null
      if (cells) {
        stretchesUpTo(
          found.map(({ start }) => start),
          found[0]!,
        )
        for (const each of cells) {
          const isSame = each.every(({ digest }) => digest === each[0]!.digest)
          if (!isSame || known.length > 0)
            descend(
              each,
              each.map(({ range }) => range!),
              true,
              holder,
            )
        }
        last = next
        from = found.map(({ end }) => end)
        continue
      }
      const canBeFrame = depth < deepest && (holdsParts(both) || mark === 'frame')
      if (differs && !(canLookInto(both) && canBeFrame)) {
        if (hasInside(both)) passed.push(found[0]!)
        continue
      }
      stretchesUpTo(
        found.map(({ start }) => start),
        isFixed(both[0]!, group[0]!.text) ? null : found[0]!,
      )
      const names = differing.get(key)
      if (names)
        own.push(
          ...ownOf(
            names,
            both.map(({ tag }) => tag!),
            holderName(both),
            own,
          ),
        )
      const isLookedInto = differs || known.length > 0 || marked.isIn(found, 'slot')
      if (both[0]!.tagName !== null && isLookedInto) descend(both, found, differs && mark === 'frame', holder)
      last = next
      from = found.map(({ end }) => end)
    }
    stretchesUpTo(
      inside.map(({ end }) => end),
      null,
    )
  }

  const descend = (
    nodes: readonly OutlineNode[],
    ranges: readonly Range[],
    isFrame: boolean,
    within: Holder,
  ): void => {
    if (depth >= deepest) return
    const children = childrenIn(nodes[0]!)
    const tagName = nodes[0]!.tagName!
    const range = /^(html|head|body)$/.test(tagName) ? null : ranges[0]!
    const isMain = within.isMain || tagName === 'main'
    const holder = { name: holderName(nodes), isMain, range }
    // Filled in by its own value.
    if (tagName === 'title') return
    // One thing as a whole, and the same in all of them.
    const isWhole = children.length === 0 || children.some(({ tagName, list }) => tagName === null && list)
    if (isWhole && !holdsParts(nodes) && !isFrame) return
    if (!canLookInto(nodes)) return
    depth += 1
    align(
      nodes.map(childrenIn),
      nodes.map(({ inside }) => inside!),
      holder,
    )
    depth -= 1
  }
  const starts = group.map(({ text }) => ({ start: 0, end: text.length }))
  // The parser makes `html`, `head` and `body` where they are not written: what is in them counts then.
  const tops = group.map(({ outline }) => unwrapped(outline.top))
  align(tops, starts, { name: 'page', isMain: false, range: null })
  return { pages: group, gaps, parts: placed, said, own }
}

/** Top nodes with those that are not written given way to what is in them. */
function unwrapped(nodes: readonly OutlineNode[]): OutlineNode[] {
  return nodes.flatMap((node) =>
    /^(html|head|body)$/.test(node.tagName ?? '') && !node.inside ? unwrapped(node.children) : [node],
  )
}

/**
 * Pages that share a frame, the largest group first; a page that shares none is a group by itself.
 * @param partsOf elements of some pages that generated parts can stand for
 * @param nameOf what `{page}` stands for
 * @param marks where their author moved the edges of slots
 */
export function groupPages(
  pages: readonly ReadPage[],
  partsOf: (pages: readonly ReadPage[]) => readonly FoundPart[],
  nameOf: (pageId: string) => string,
  marks: readonly FrameMark[] = [],
): Group[] {
  const alone = (page: ReadPage): Group => ({ pages: [page], gaps: [], parts: [], said: new Map(), own: [] })
  const groups = byFrame(pages).flatMap((members): Group[] => {
    if (members.length < 2) return members.map(alone)
    const known = partsOf(members)
    // The model has a description, each part and all that others are told, if any page has: what is missing in others
    // leaves no line.
    const rank = (page: ReadPage) =>
      partsIn(page, known) * 40 + page.said.size * 4 + (page.description ? 2 : 0) + (page.charset ? 1 : 0)
    const model = members.reduce((best, one) => (rank(one) > rank(best) ? one : best))
    const usable = known.filter((part) => partsIn(model, [part]) > 0)
    const ordered = [model, ...members.filter((one) => one !== model)]
    // Edges that cannot be where they were moved to are where they were found.
    for (const moved of marks.length > 0 ? [marks, []] : [[]]) {
      const found = soundGroup(ordered, (some) => alignGroup(some, usable, nameOf, moved))
      if (found) return [found.group, ...found.others.map(alone)]
    }
    return members.map(alone)
  })
  return groups.sort((a, b) => b.pages.length - a.pages.length)
}

/** How often a group is tried once more, without those that do not fit. */
const mostTries = 4

/** A group of those pages that come out of a frame as they are, and the others; null where there are none. */
function soundGroup(
  ordered: readonly ReadPage[],
  align: (pages: readonly ReadPage[]) => Group,
): { readonly group: Group; readonly others: readonly ReadPage[] } | null {
  let left = ordered
  const others: ReadPage[] = []
  for (let tries = 0; tries < mostTries && left.length > 1; tries++) {
    const group = align(left)
    const odd = unsoundIn(group)
    if (odd?.size === 0) return { group, others }
    // Where the first is the odd one, all others are.
    const out = odd ?? new Set([left[0]!])
    others.push(...out)
    left = left.filter((one) => !out.has(one))
  }
  return null
}

/** How many of some parts a page has. */
function partsIn(page: ReadPage, known: readonly FoundPart[]): number {
  const keys = new Set(known.map(({ key }) => key))
  const seen = new Set<string>()
  if (keys.size > 0)
    page.outline.walk(({ key }) => {
      if (keys.has(key)) seen.add(key)
      return true
    })
  return seen.size
}
