import { Lines, attributeOf, type HtmlElement, type HtmlNode, parsePlaces, pieceOf } from '#core/markup'
import { type Colour, contrast, readableOn, writeColour } from './contrast'
import { RuleIndex } from './matching'
import { type ColouredPage, rulesOfPage, saysDark } from './page-sheets'
import { isQuirks } from './page-tree'
import type { Painted } from './painted'
import { paintedElements } from './painted-elements'
import { type ColourScheme, over } from './shades'
import type { DeclaredAt } from './sheet-rules'

/** Text of a page that is hard to tell from what is behind it. */
export interface PoorContrast {
  /** As `#rrggbb`, as they are seen. */
  readonly text: string
  readonly ground: string
  /** 1 to 21, and what is needed: 4.5, or 3 where letters are large (WCAG 2.2, 1.4.3). */
  readonly ratio: number
  readonly needed: number
  /** The set of colours it is so in. */
  readonly scheme: ColourScheme
  /** The start tag of the first element that is so, and its line in the page. */
  readonly piece: string
  readonly line: number
  /** How its text begins. */
  readonly words: string
  /** Elements of the page that are so. */
  readonly count: number
  /** Where the colour of the text is written; null where no style sheet says it. */
  readonly at: DeclaredAt | null
  /** The nearest colour of the text that can be read there; null where it lets something through. */
  readonly better: string | null
}

/** Told of one page; of more, the first are mended first. */
const mostTold = 100
const longestWords = 40
const largePx = 24
const largeBoldPx = 18.66
/** A ratio is told to two places, and what only falls short beyond them does not. */
const nearly = 0.005

/** What is seen of the text and of its ground, through all veils that lie over both; null where it is not known. */
function seen(painted: Painted): { text: Colour; ground: Colour } | null {
  const {
    text: { shade },
    ground,
    veils,
    isAltered,
    hasShadow,
  } = painted
  if (!shade || !ground || isAltered || hasShadow) return null
  let both = { text: over(shade, ground), ground }
  for (let at = veils.length - 1; at >= 0; at--) {
    const { opacity, ground: behind } = veils[at]!
    if (!behind) return null
    both = {
      text: over({ ...both.text, alpha: opacity }, behind),
      ground: over({ ...both.ground, alpha: opacity }, behind),
    }
  }
  return both
}

const wordsOf = (element: HtmlElement): string => {
  let text = ''
  for (const node of element.childNodes)
    if (node.nodeName === '#text' && 'value' in node) {
      text += node.value
      if (text.length > 10 * longestWords && /[\p{L}\p{N}]/u.test(text)) break
    }
  const shown = text.replace(/\s+/g, ' ').trim()
  return /[\p{L}\p{N}]/u.test(shown) ? shown : ''
}

/** What is told of text that is seen in one pair of colours, written at one place. */
function keyOf(found: Omit<PoorContrast, 'count'>): string {
  const { text, ground, needed, scheme, at } = found
  return [text, ground, needed, scheme, at?.path ?? '', at?.start ?? ''].join(' ')
}

function judge(html: string, root: HtmlNode, rules: RuleIndex, scheme: ColourScheme): PoorContrast[] {
  const lines = new Lines(html)
  const found = new Map<string, { one: Omit<PoorContrast, 'count'>; count: number }>()
  for (const { element, painted } of paintedElements(root, rules, scheme)) {
    const words = attributeOf(element, 'disabled') === undefined ? wordsOf(element) : ''
    const colours = words === '' ? null : seen(painted)
    if (!colours) continue
    const { text, veils, letters } = painted
    const ratio = contrast(colours.text, colours.ground)
    const isLarge = letters.px === null || letters.px >= (letters.isBold ? largeBoldPx : largePx)
    const needed = isLarge ? 3 : 4.5
    if (ratio >= needed - nearly) continue
    const where = element.sourceCodeLocation
    const one = {
      ...{ text: writeColour(colours.text), ground: writeColour(colours.ground), ratio, needed, scheme },
      piece: where?.startTag ? pieceOf(html, where.startTag.startOffset, where.startTag.endOffset) : '',
      line: where ? lines.placeOf(where.startOffset).line : 1,
      words: words.length > longestWords ? `${words.slice(0, longestWords).trimEnd()}…` : words,
      at: text.at,
      better:
        text.shade?.alpha === 1 && veils.length === 0
          ? writeColour(readableOn(colours.text, colours.ground, needed))
          : null,
    }
    const key = keyOf(one)
    const known = found.get(key)
    if (known) known.count++
    else if (found.size < mostTold) found.set(key, { one, count: 1 })
  }
  return [...found.values()].map(({ one, count }) => ({ ...one, count }))
}

/**
 * Text of a finished page that is hard to read on what is behind it, by its styles (WCAG 2.2, 1.4.3), in the light and in the
 * dark set where there is one. What stands on a picture, over other things, or in styles of another site is not judged.
 */
export function findPoorContrast(page: ColouredPage): PoorContrast[] {
  const { html } = page
  const { root } = parsePlaces(html)
  const inScheme = (scheme: ColourScheme) => {
    const read = rulesOfPage(root, page, scheme)
    const found = read ? judge(html, root, new RuleIndex(read.rules, isQuirks(root)), scheme) : []
    return { found, knowsDark: read !== null && (read.knowsDark || saysDark.test(html)) }
  }
  const { found: light, knowsDark } = inScheme('light')
  const dark = knowsDark ? inScheme('dark').found : []
  // What is the same in both is told once.
  const known = new Set(light.map((one) => keyOf({ ...one, scheme: 'dark' })))
  return [...light, ...dark.filter((one) => !known.has(keyOf(one)))].slice(0, mostTold)
}
