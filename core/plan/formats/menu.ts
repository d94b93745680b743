import { type HtmlNode, isElement, Lines, parseHtml, walkHtml } from '#core/markup'
import { cleanLabel, nestLines, type Outline, type PlanLine, type PlanRefusal } from '../outline'

/** What is known of an element from those around it. */
interface Around {
  /** The list entry that it stands in; null outside of any. */
  readonly entry: Entry | null
  readonly depth: number
  /** Whether words in it are no label: what runs or is drawn, and what has lists in it beside its label. */
  readonly isMute: boolean
}

interface Entry {
  readonly line: number
  readonly depth: number
  text: string
}

/**
 * Reads a plan from a menu in HTML: entries of lists, deeper ones under those that they stand in; without any list, its links.
 */
export function readMenuPlan(text: string): Outline | { refusal: PlanRefusal } {
  const { root } = parseHtml(text, /^\s*(?:<!doctype|<html\b|<\?xml)/i.test(text))
  const places = new Lines(text)
  const nav = elementsOf(root, 'nav')[0]
  const hasLists = (node: HtmlNode) => elementsOf(node, 'li').length > 0
  const from = nav && hasLists(nav) ? nav : root
  const tag = hasLists(from) ? 'li' : 'a'
  const entries: Entry[] = []
  const around = new Map<HtmlNode, Around>()
  walkHtml(from, (node) => {
    const parent = 'parentNode' in node ? node.parentNode : null
    const above = (parent && around.get(parent)) ?? { entry: null, depth: 0, isMute: false }
    if (node.nodeName === '#text' && 'value' in node) {
      if (above.entry && !above.isMute) above.entry.text += node.value
      return
    }
    if (!isElement(node)) return void around.set(node, above)
    const isMute = above.isMute || /^(?:script|style|svg|template|select)$/.test(node.tagName)
    if (node.tagName !== tag || (tag === 'a' && above.entry))
      return void around.set(node, { ...above, isMute })
    const at = node.sourceCodeLocation?.startOffset ?? 0
    const entry: Entry = { line: places.placeOf(at).line, depth: above.depth + 1, text: '' }
    entries.push(entry)
    around.set(node, { entry, depth: above.depth + 1, isMute })
  })
  const lines = entries.flatMap(({ line, depth, text: words }): PlanLine[] => {
    const label = cleanLabel(words)
    return label === '' ? [] : [{ line, columns: depth, node: { label, trial: false, inMenus: true } }]
  })
  if (lines.length === 0)
    return { refusal: { line: 1, reason: 'This HTML has neither a list nor a link with words in it.' } }
  const nested = nestLines(lines)
  return { ...nested, notes: ['Labels were read from the entries of a menu.', ...nested.notes] }
}

function elementsOf(root: HtmlNode, tagName: string): HtmlNode[] {
  const found: HtmlNode[] = []
  walkHtml(root, (node) => {
    if (isElement(node) && node.tagName === tagName) found.push(node)
  })
  return found
}
