import { type HtmlElement, type HtmlNode, isElement, walkHtml } from '#core/markup'
import { made, styleOf } from './made'

/** A paragraph that a word processor wrote for an entry of a list: its level says where it stands, and its mark is text. */
interface Entry {
  readonly node: HtmlElement
  /** Which of the document's lists it is of. */
  readonly list: string
  readonly level: number
  /** `1.`, `a)`, `·`; '' where it has none. */
  readonly mark: string
}

type Child = HtmlElement['childNodes'][number]

function entryOf(node: HtmlNode): Entry | null {
  if (!isElement(node) || node.tagName !== 'p') return null
  const found = /mso-list:\s*l(\d{1,6})\s+level(\d{1,2})/i.exec(styleOf(node))
  return found && { node, list: found[1]!, level: Number(found[2]), mark: markOf(node) }
}

/** What stands in front of an entry; it is passed over where the entry is read. */
function markOf(entry: HtmlElement): string {
  let mark = ''
  walkHtml(entry, (node) => {
    if (mark !== '' || !isElement(node) || !/mso-list:\s*ignore/i.test(styleOf(node))) return
    walkHtml(node, (inner) => {
      if (inner.nodeName === '#text' && 'value' in inner && mark.length < 20) mark += inner.value
    })
  })
  return mark.replace(/[\s\u00a0]+/g, '')
}

/** The list that an entry begins (HTML §4.4.5, §4.4.6): ordered where its mark counts, from what it counts. */
function listOf({ mark }: Entry): HtmlElement {
  const [, counted = ''] = /^\(?(\d{1,6}|[A-Za-z]|[ivxlcIVXLC]{2,8})[.)]+$/.exec(mark) ?? []
  if (counted === '') return made('ul')
  if (/^\d/.test(counted)) return made('ol', Number(counted) === 1 ? {} : { start: String(Number(counted)) })
  const isRoman = /^[ivx]+$/i.test(counted)
  const type = isRoman ? 'i' : 'a'
  return made('ol', { type: counted === counted.toUpperCase() ? type.toUpperCase() : type })
}

/** Lists of entries that follow one another; those of a deeper level stand in the entry in front of them. */
function listsOf(entries: readonly Entry[]): HtmlElement[] {
  const lists: HtmlElement[] = []
  const open: { readonly list: HtmlElement; readonly level: number; readonly name: string }[] = []
  for (const entry of entries) {
    while (open.length > 0 && open[open.length - 1]!.level > entry.level) open.pop()
    let top = open[open.length - 1]
    if (top?.level === entry.level && top.name !== entry.list) {
      open.pop()
      top = open[open.length - 1]
    }
    if (top?.level !== entry.level) {
      const list = listOf(entry)
      const holder = top?.list.childNodes[top.list.childNodes.length - 1] as HtmlElement | undefined
      if (holder) holder.childNodes.push(list as Child)
      else lists.push(list)
      open.push((top = { list, level: entry.level, name: entry.list }))
    }
    const item = made('li')
    item.childNodes.push(...entry.node.childNodes)
    top.list.childNodes.push(item as Child)
  }
  return lists
}

/** Blanks, comments and what only some programs read, between two entries. */
const isBetween = (node: HtmlNode): boolean =>
  node.nodeName === '#comment' || (node.nodeName === '#text' && 'value' in node && node.value.trim() === '')

/** Puts lists in the place of paragraphs that stand for their entries. Once over the tree, which is changed. */
export function makeLists(root: HtmlNode): void {
  walkHtml(root, (node) => {
    if (!('childNodes' in node) || !node.childNodes.some((child) => entryOf(child) !== null)) return
    const children: Child[] = []
    let run: Entry[] = []
    const end = () => {
      children.push(...(listsOf(run) as Child[]))
      run = []
    }
    for (const child of node.childNodes) {
      const entry = entryOf(child)
      if (entry) run.push(entry)
      else if (run.length === 0 || !isBetween(child)) {
        end()
        children.push(child)
      }
    }
    end()
    node.childNodes.splice(0, node.childNodes.length, ...children)
  })
}
