import type { Range } from '#core/markup'
import type { FoundPart } from './generated-of'
import { framing, type OutlineNode } from './page-outline'
import { charsetKey, descriptionKey } from './page-tree'
import type { ReadPage } from './read-page'

/** A stretch in which the pages of a group differ. */
export interface Gap {
  /** What holds it, for naming a slot. */
  readonly holder: string
  /** Where it stands in each page, in the order of the pages. */
  readonly ranges: readonly Range[]
}

/** A generated part that stands in the place of an element; null in pages that do not have it. */
export interface PlacedPart {
  readonly part: FoundPart
  readonly ranges: readonly (Range | null)[]
}

/** Pages that are alike but for some stretches; the first of them is the model. */
export interface Group {
  readonly pages: readonly ReadPage[]
  readonly gaps: readonly Gap[]
  readonly parts: readonly PlacedPart[]
}

/** A stretch without the white space at its ends. */
function trimmed(text: string, { start, end }: Range): Range {
  const inner = text.slice(start, end)
  const lead = inner.length - inner.trimStart().length
  return lead === inner.length
    ? { start, end: start }
    : { start: start + lead, end: start + inner.trimEnd().length }
}

/** Elements whose inside is taken whole. */
const whole = new Set(['script', 'style', 'textarea', 'select', 'svg', 'math', 'pre', 'table'])

/**
 * Where a group of pages that share their frame differ. Children are aligned by the start tags that stand
 * once in each page and in one order; between them, and within those that differ, is what a page fills in.
 * @param known elements that generated parts stand for; a page may be without one
 */
function alignGroup(
  group: readonly ReadPage[],
  known: readonly FoundPart[],
  nameOf: (pageId: string) => string,
): Group {
  const gaps: Gap[] = []
  const placed: PlacedPart[] = []
  const ownValues = [descriptionKey, charsetKey].map((key) => ({ key, html: '' }))
  const partOf = new Map([...known, ...ownValues].map((part) => [part.key, part]))
  const gap = (holder: string, ranges: readonly Range[]) => {
    const cut = ranges.map((range, index) => trimmed(group[index]!.text, range))
    const texts = cut.map(({ start, end }, index) => group[index]!.text.slice(start, end))
    if (texts.some((text) => text !== texts[0])) gaps.push({ holder, ranges: cut })
  }

  const isBlankIn = (index: number, start: number, end: number): boolean =>
    group[index]!.text.slice(start, end).trim() === ''
  /** Whether elements that differ are looked into. */
  const holdsParts = (nodes: readonly OutlineNode[]): boolean => {
    const [first] = nodes
    if (!first || first.tagName === null) return false
    if (framing.test(first.tagName) || /^(head|title)$/.test(first.tagName)) return true
    return first.tagName === 'h1' && nodes.every(({ says }, index) => says === nameOf(group[index]!.id))
  }
  const align = (
    lists: readonly (readonly OutlineNode[])[],
    inside: readonly Range[],
    holder: string,
  ): void => {
    const places = lists.map((nodes) => {
      const once = new Map<string, number>()
      for (const [at, { key }] of nodes.entries()) once.set(key, once.has(key) ? -1 : at)
      return once
    })
    let last = lists.map(() => -1)
    let from = inside.map(({ start }) => start)
    /** Parts since the last anchor: where one is missing, what stands around it is one stretch. */
    let between: PlacedPart[] = []
    const stretchesUpTo = (ends: readonly number[]) => {
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
        )
        cursor = stops.map((stop, at) => part?.ranges[at]?.end ?? stop)
      }
      placed.push(...between)
      between = []
    }
    for (const key of places[0]!.keys()) {
      const at = places.map((once) => once.get(key) ?? -1)
      const part = partOf.get(key)
      if (at.some((place, index) => place <= last[index]! && !(part && place < 0))) continue
      const nodes = at.map((place, index) => (place < 0 ? null : lists[index]![place]!))
      const ranges = nodes.map((node) => node && node.range)
      if (nodes.some((node, index) => node && !ranges[index])) continue
      const next = at.map((place, index) => Math.max(place, last[index]!))
      if (part) {
        between.push({ part, ranges })
        last = next
        continue
      }
      const found = ranges as Range[]
      const both = nodes as OutlineNode[]
      const differs = both.some(({ digest }) => digest !== both[0]!.digest)
      // A paragraph that each page has one of is no part of a frame; a heading is, where it is the label.
      if (differs && !holdsParts(both)) continue
      stretchesUpTo(found.map(({ start }) => start))
      if (both[0]!.tagName !== null && (differs || known.length > 0)) descend(both, found)
      last = next
      from = found.map(({ end }) => end)
    }
    stretchesUpTo(inside.map(({ end }) => end))
  }

  const descend = (nodes: readonly OutlineNode[], ranges: readonly Range[]): void => {
    const { name, children } = nodes[0]!
    const tagName = nodes[0]!.tagName!
    const holder = /^[a-z][\w-]*/i.exec(name ?? '')?.[0] ?? tagName
    // Filled in by its own value.
    if (tagName === 'title') return
    // One thing as a whole, and the same in all of them.
    if (children.length === 0 && !holdsParts(nodes)) return
    const insides = nodes.map(({ inside }) => inside)
    if (whole.has(tagName) || insides.some((inside) => inside === null)) return gap(holder, ranges)
    align(
      nodes.map((node) => node.children),
      insides as Range[],
      holder,
    )
  }
  const starts = group.map(({ text }) => ({ start: 0, end: text.length }))
  // The parser makes `html`, `head` and `body` where they are not written: what is in them counts then.
  const tops = group.map(({ outline }) => unwrapped(outline))
  align(tops, starts, 'page')
  return { pages: group, gaps, parts: placed }
}

/** Top nodes with those that are not written given way to what is in them. */
function unwrapped(nodes: readonly OutlineNode[]): OutlineNode[] {
  return nodes.flatMap((node) =>
    /^(html|head|body)$/.test(node.tagName ?? '') && !node.inside ? unwrapped(node.children) : [node],
  )
}

/** The elements near the top of a page that a frame is made of, by their start tags. */
function frameKeys({ outline }: ReadPage): ReadonlySet<string> {
  const keys = new Set<string>()
  const visit = (nodes: readonly OutlineNode[], depth: number): void => {
    for (const { tagName, key, inside, children } of nodes) {
      if (tagName === null || !framing.test(tagName)) continue
      if (inside) keys.add(key)
      const isTop = /^(html|body)$/.test(tagName)
      if (depth < 2) visit(children, isTop ? depth : depth + 1)
    }
  }
  visit(outline, 0)
  return keys
}

/** How much two sets share: 1 for equal ones. */
function alike(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let both = 0
  for (const one of a) if (b.has(one)) both++
  return both / (a.size + b.size - both)
}

/** Pages share a frame where this much of what it is made of is the same. */
const alikeEnough = 0.6

/** Frames that are told apart; a site with more of them has none. */
const mostFrames = 200

/** Pages by the frame they have, whatever their files are called. */
function byFrame(pages: readonly ReadPage[]): ReadPage[][] {
  const frames: { readonly keys: ReadonlySet<string>; readonly members: ReadPage[] }[] = []
  const alone: ReadPage[][] = []
  for (const one of pages) {
    const keys = frameKeys(one)
    let best: (typeof frames)[number] | null = null
    let most = alikeEnough
    for (const frame of keys.size === 0 ? [] : frames) {
      const share = alike(keys, frame.keys)
      if (share >= most && (share > most || !best)) [best, most] = [frame, share]
    }
    if (best) best.members.push(one)
    else if (keys.size > 0 && frames.length < mostFrames) frames.push({ keys, members: [one] })
    else alone.push([one])
  }
  return [...frames.map(({ members }) => members), ...alone]
}

/** Whether stretches stand one after the other in each page: tags that cross one another part nothing. */
function isSound({ pages, gaps, parts }: Group): boolean {
  return pages.every((_, index) => {
    const ranges = [...gaps, ...parts]
      .flatMap((one) => one.ranges[index] ?? [])
      .sort((a, b) => a.start - b.start || a.end - b.end)
    return ranges.every(({ start, end }, at) => end >= start && (at === 0 || start >= ranges[at - 1]!.end))
  })
}

/**
 * Pages that share a frame, the largest group first; a page that shares none is a group by itself.
 * @param partsOf elements of some pages that generated parts can stand for
 * @param nameOf what `{page}` stands for
 */
export function groupPages(
  pages: readonly ReadPage[],
  partsOf: (pages: readonly ReadPage[]) => readonly FoundPart[],
  nameOf: (pageId: string) => string,
): Group[] {
  const alone = (page: ReadPage): Group => ({ pages: [page], gaps: [], parts: [] })
  const groups = byFrame(pages).flatMap((members): Group[] => {
    if (members.length < 2) return members.map(alone)
    const known = partsOf(members)
    // The model has a description and each part, if any page has: what is missing in others leaves no line.
    const rank = (page: ReadPage) =>
      partsIn(page, known) * 4 + (page.description ? 2 : 0) + (page.charset ? 1 : 0)
    const model = members.reduce((best, one) => (rank(one) > rank(best) ? one : best))
    const usable = known.filter((part) => partsIn(model, [part]) > 0)
    const group = alignGroup([model, ...members.filter((one) => one !== model)], usable, nameOf)
    return isSound(group) ? [group] : members.map(alone)
  })
  return groups.sort((a, b) => b.pages.length - a.pages.length)
}

/** How many of some parts a page has. */
function partsIn(page: ReadPage, known: readonly FoundPart[]): number {
  const keys = new Set(known.map(({ key }) => key))
  const seen = new Set<string>()
  const open = keys.size > 0 ? [...page.outline] : []
  for (let node = open.pop(); node; node = open.pop()) {
    if (keys.has(node.key)) seen.add(node.key)
    open.push(...node.children)
  }
  return seen.size
}
