import { type HtmlElement, type HtmlNode, isElement, walkHtml } from '#core/markup'
import { blocks, boxes, textOf } from './elements'
import { made, styleOf } from './made'

/** A paragraph that stands for an entry of a list: its level says where, and its mark is text. */
interface Entry {
  readonly node: HtmlElement
  /** Which of the document's lists it is of. */
  readonly list: string
  readonly level: number
  /** `1.`, `a)`, `·`; '' where it has none. */
  readonly mark: string
  /** The text that begins with its mark, where nothing but that makes an entry of it: one alone is none. */
  readonly typed: Text | null
}
type Text = Extract<HtmlNode, { value: string }>

type Child = HtmlElement['childNodes'][number]

function entryOf(node: HtmlNode): Entry | null {
  if (!isElement(node) || node.tagName !== 'p') return null
  const found = /mso-list:\s*l(\d{1,6})\s+level(\d{1,2})/i.exec(styleOf(node))
  return found && { node, list: found[1]!, level: Number(found[2]), mark: markOf(node), typed: null }
}

/** A bullet that was typed, or drawn by a program that has no lists; a dash is one where a tab parts it from the words. */
const bullet = /^\s*(?:([•◦▪▫‣●○■□·])(?:\s+|$)|([–-])\s*\t\s*)/u
const tabbed = /^\s*\S\s*\t/u

/** The first words of a node. */
function firstText(node: HtmlNode): Text | null {
  let found: Text | null = null
  // No further than it takes to find some: a stack, since what is pasted may be thousands of levels deep.
  const stack: HtmlNode[] = [node]
  while (stack.length > 0 && found === null) {
    const one = stack.pop()!
    if (one.nodeName === '#text' && 'value' in one && one.value.trim() !== '') found = one
    else if ('childNodes' in one)
      for (let at = one.childNodes.length - 1; at >= 0; at--) stack.push(one.childNodes[at]!)
  }
  return found
}

/** A paragraph, or a box of nothing but words, that begins with a bullet; its list is told by that. */
function bulletedOf(node: HtmlNode): Entry | null {
  if (!isElement(node) || !(node.tagName === 'p' || boxes.has(node.tagName))) return null
  if (node.childNodes.some((one) => isElement(one) && (blocks.has(one.tagName) || boxes.has(one.tagName))))
    return null
  const typed = firstText(node)
  const [, drawn, dash] = (typed && bullet.exec(typed.value)) ?? []
  const sign = drawn ?? dash
  // A sign that nothing follows is all that is said.
  return sign !== undefined && textOf(node).replace(bullet, '').trim() !== ''
    ? { node, list: sign, level: 1, mark: sign, typed }
    : null
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

/** Entries of bullets, each kind of which that comes after another is a level deeper; null for a single one without a tab. */
function levelled(entries: readonly Entry[]): Entry[] | null {
  if (entries.length < 2 && !tabbed.test(entries[0]!.typed!.value)) return null
  const kinds = [...new Set(entries.map(({ list }) => list))]
  return entries.map((entry) => {
    entry.typed!.value = entry.typed!.value.replace(bullet, '')
    return { ...entry, list: '', level: kinds.indexOf(entry.list) + 1 }
  })
}

/** Blanks, comments and what only some programs read, between two entries. */
const isBetween = (node: HtmlNode): boolean =>
  node.nodeName === '#comment' || (node.nodeName === '#text' && 'value' in node && node.value.trim() === '')

/** Puts lists in the place of paragraphs that stand for their entries. Once over the tree, which is changed. */
export function makeLists(root: HtmlNode): void {
  walkHtml(root, (node) => {
    if (!('childNodes' in node)) return
    const found = node.childNodes.map((child) => entryOf(child) ?? bulletedOf(child))
    if (found.every((entry) => entry === null)) return
    const children: Child[] = []
    let run: Entry[] = []
    const end = () => {
      const entries = run[0]?.typed ? levelled(run) : run
      children.push(...((entries ? listsOf(entries) : run.map((entry) => entry.node)) as Child[]))
      run = []
    }
    for (const [index, child] of node.childNodes.entries()) {
      const entry = found[index]!
      if (entry && run[0] && (run[0].typed === null) !== (entry.typed === null)) end()
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
