import {
  beforeMark,
  cleanLabel,
  indentOf,
  nestLines,
  type Outline,
  type OutlineNode,
  type PlanLine,
  type PlanRefusal,
  walkOutline,
} from '../outline'

const item = /^(?:[-*+]|\d{1,9}[.)])(?:\s+|$)/
const marks = [
  { mark: ' *(trial page)*', ends: ['*(trial page)*', '_(trial page)_'], means: 'trial' },
  { mark: ' *(not in menus)*', ends: ['*(not in menus)*', '_(not in menus)_'], means: 'no menus' },
] as const
/** ASCII punctuation that a backslash keeps literal (CommonMark 0.31 §2.4). */
const special = /[\\`*_{}[\]<>()#+\-.!|~]/g

/** Reads a list in Markdown: bullets or numbers, deeper ones indented (CommonMark 0.31 §5.2, §5.3). */
export function readMarkdownPlan(text: string): Outline | { refusal: PlanRefusal } {
  const lines: PlanLine[] = []
  let skipped = 0
  for (const [index, line] of text.split(/\r\n|\n|\r/).entries()) {
    const { columns, rest } = indentOf(line)
    if (rest.trim() === '') continue
    const found = item.exec(rest)
    if (!found) {
      skipped += 1
      continue
    }
    const node = readItem(rest.slice(found[0].length).trimEnd())
    if (node.label !== '') lines.push({ line: index + 1, columns, node })
  }
  if (lines.length === 0)
    return {
      refusal: {
        line: 1,
        reason: 'No line of this text is an item of a list; items begin with -, * or a number.',
      },
    }
  const nested = nestLines(lines)
  const notes =
    skipped > 0
      ? [
          `${skipped} ${skipped === 1 ? 'line that is' : 'lines that are'} no item of a list ${skipped === 1 ? 'was' : 'were'} left out.`,
        ]
      : []
  return { ...nested, notes: [...notes, ...nested.notes] }
}

function readItem(written: string): PlanLine['node'] {
  let text = written.replace(/^\[[ xX]\]\s+/, '')
  let trial = false
  let inMenus = true
  for (let changed = true; changed;) {
    changed = false
    for (const { ends, means } of marks)
      for (const end of ends) {
        const unmarked = beforeMark(text, end)
        if (unmarked === null) continue
        text = unmarked
        if (means === 'trial') trial = true
        else inMenus = false
        changed = true
      }
  }
  // A link stands for its text; emphasis and code for what they hold; then escapes for their sign.
  const label = plainEmphasis(plainLinks(text)).replace(/\\([!-/:-@[-`{-~])/g, '$1')
  return { label: cleanLabel(label), trial, inMenus }
}

const isEscaped = (text: string, at: number) => text[at - 1] === '\\'

/** Links as their text (CommonMark 0.31 §6.3, as far as labels need it). One pass: each bracket is looked for once. */
function plainLinks(text: string): string {
  let out = ''
  let done = 0
  // The end that was found last also ends what opens in front of it.
  let close = -1
  for (let open = text.indexOf('['); open >= 0; open = text.indexOf('[', open + 1)) {
    if (open < done || isEscaped(text, open)) continue
    if (close < open) close = closing(text, open + 1, ']')
    if (close < 0) break
    if (text[close + 1] !== '(') continue
    const end = closing(text, close + 2, ')', '(')
    if (end < 0) {
      // No link ends like this: what opens before the same bracket is none either.
      open = close
      continue
    }
    out += text.slice(done, open) + text.slice(open + 1, close)
    done = end + 1
    open = end
  }
  return out + text.slice(done)
}

/** The next place of a sign that no backslash keeps literal; -1 where another stands in front of it, or none comes. */
function closing(text: string, from: number, sign: string, unless = ''): number {
  for (let at = from; at < text.length; at++) {
    const here = text[at]
    if (here === '\\') at++
    else if (here === sign) return at
    else if (here === unless) return -1
  }
  return -1
}

const marker = /[*_`]/
const markers = ['**', '__', '*', '`']

/** Emphasis, strong emphasis and code as what they hold, where that holds no further mark. One pass. */
function plainEmphasis(text: string): string {
  let out = ''
  let at = 0
  while (at < text.length) {
    const here = text[at]!
    if (here === '\\') {
      out += text.slice(at, at + 2)
      at += 2
      continue
    }
    const mark = marker.test(here) ? markers.find((one) => text.startsWith(one, at)) : undefined
    if (mark) {
      const from = at + mark.length
      let end = from
      while (end < text.length && !marker.test(text[end]!)) end += text[end] === '\\' ? 2 : 1
      const held = text.slice(from, end)
      if (held !== '' && held.trim() === held && text.startsWith(mark, end)) {
        out += held
        at = end + mark.length
        continue
      }
    }
    out += here
    at += 1
  }
  return out
}

/** Writes a plan as a bulleted list, two spaces a level. */
export function writeMarkdownPlan(nodes: readonly OutlineNode[]): string {
  return walkOutline(nodes)
    .map(({ node, depth }) => {
      const flags = (node.inMenus ? '' : marks[1].mark) + (node.trial ? marks[0].mark : '')
      return `${'  '.repeat(depth)}- ${node.label.replace(special, '\\$&')}${flags}\n`
    })
    .join('')
}
