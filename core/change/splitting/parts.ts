import {
  applyEdits,
  type HtmlElement,
  type HtmlNode,
  parseHtml,
  placesIn,
  type Range,
  readHtml,
  type TextEdit,
} from '#core/markup'

/** A heading at which a page can be split. */
export interface PartHeading {
  /** What it says: the label that is proposed. */
  readonly label: string
  readonly level: number
  readonly line: number
  /** Where the part begins and ends in the text: up to the next heading of its level or above. */
  readonly range: Range
}

interface Block extends Range {
  readonly element: HtmlElement | null
}

/** What stands at the top level of a text, in order. */
function blocksOf(text: string): Block[] {
  const { root } = parseHtml(text, false)
  const nodes: readonly HtmlNode[] = 'childNodes' in root ? root.childNodes : []
  const blocks = nodes.flatMap((node): Block[] => {
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    return where
      ? [{ start: where.startOffset, end: where.endOffset, element: 'tagName' in node ? node : null }]
      : []
  })
  // What a parser moves out of a table still stands in it.
  let reach = 0
  return blocks
    .sort((a, b) => a.start - b.start)
    .filter(({ start, end }) => {
      const isOutside = start >= reach
      reach = Math.max(reach, end)
      return isOutside
    })
}

/** Whether an element is nothing but a place that links lead to: an anchor without words. */
const isBarePlace = ({ tagName, attrs }: HtmlElement, source: string): boolean =>
  tagName === 'a' && attrs.every(({ name }) => name !== 'href') && /^(?:\s|<[^>]*>)*$/.test(source)

/**
 * The headings of a text at which it can be parted without breaking an element: those at its top level, and
 * those that begin what stands there.
 */
export function partHeadings(text: string): PartHeading[] {
  const { headings } = readHtml(text)
  const blocks = blocksOf(text)
  const found: (PartHeading & { start: number })[] = []
  let next = 0
  /** Where the places begin that nothing but a heading can follow: they go with it. */
  let placesFrom: number | null = null
  for (const { start, end, element } of blocks) {
    const isPlace = element
      ? isBarePlace(element, text.slice(start, end))
      : text.slice(start, end).trim() === ''
    const from: number = placesFrom ?? start
    placesFrom = isPlace ? (placesFrom ?? (element && start)) : null
    while (next < headings.length && headings[next]!.start < start) next++
    const heading = headings[next]
    if (!element || !heading || heading.start >= end) continue
    // Nothing but tags stands before it: the whole block is its part.
    const isFirst = /^(?:\s|<[^>]*>)*$/.test(text.slice(start, heading.start))
    if (isFirst && heading.text !== '')
      found.push({
        label: heading.text,
        level: heading.level,
        line: heading.line,
        range: { start: from, end },
        start: from,
      })
  }
  return found.map(({ start, ...part }, index) => {
    const after = found.slice(index + 1).find((one) => one.level <= part.level)
    return { ...part, range: { start, end: after?.start ?? text.trimEnd().length } }
  })
}

/** A part as the text of a page of its own. */
export interface PagePart {
  readonly text: string
  /** Every place that goes with it, by its id or its anchor's name. */
  readonly ids: readonly string[]
}

/**
 * Makes a part the text of a page: its heading goes, since the page has its label for one, and leaves the places in it
 * to what follows; the headings below it rise by as many levels as are free.
 */
export function pageOfPart(text: string, { range, level }: Pick<PartHeading, 'range' | 'level'>): PagePart {
  const part = text.slice(range.start, range.end)
  const facts = readHtml(part)
  const [own, ...below] = facts.headings
  const ids = placesIn(facts)
  if (!own) return { text: part.trim(), ids }
  const edits: TextEdit[] = []
  const rise = Math.max(0, Math.min(...below.map((one) => one.level)) - 2)
  const by = Number.isFinite(rise) ? Math.min(rise, Math.max(0, level - 1)) : 0
  if (by > 0)
    for (const heading of below) {
      const name = `h${Math.max(2, heading.level - by)}`
      edits.push({ start: heading.start + 1, end: heading.start + 3, text: name })
      const close = part.slice(heading.start, heading.end).toLowerCase().lastIndexOf(`</h${heading.level}`)
      if (close > 0)
        edits.push({ start: heading.start + close + 2, end: heading.start + close + 4, text: name })
    }
  const lineEnd = /^[ \t]*\n?/.exec(part.slice(own.end))![0].length
  const carriers = placesIn(readHtml(part.slice(own.start, own.end)))
    .map(idCarrier)
    .join('')
  edits.push({ start: own.start, end: own.end + (carriers === '' ? lineEnd : 0), text: carriers })
  return { text: applyEdits(part, edits).trim(), ids }
}

/** An empty element that keeps a place of a heading where the heading was. */
const idCarrier = (id: string) => `<span id="${id.replace(/&/g, '&amp;').replace(/"/g, '&quot;')}"></span>`
