import { isBranch, undrawn } from './drawn-tree'
import { guessForm } from './guess-form'
import { areNumbered, countedLines, hasSigns, readLevels } from './levels'

/** What a plan may say of a page beside its place; not every format can carry it. */
export interface PageDetails {
  readonly ownName?: string
  readonly title?: string
  readonly description?: string
  /** BCP 47 tag of what it is in, where that is not what its place is in. */
  readonly language?: string
  /** Whether the pages below it carry dates. */
  readonly dated?: boolean
  /** `2031`, `2031-06` or `2031-06-14`. */
  readonly date?: string
}

/** All of them, in the order in which they are written. */
export const pageDetails = ['ownName', 'title', 'description', 'language', 'dated', 'date'] as const

/** A line of a plan with what stands under it. */
export interface OutlineNode {
  readonly label: string
  readonly trial: boolean
  readonly inMenus: boolean
  readonly details?: PageDetails
  readonly children: readonly OutlineNode[]
}

/** Why a text is no plan, and the line (from 1) where that shows. */
export interface PlanRefusal {
  readonly line: number
  readonly reason: string
}

/** A plan that was read: its top-level lines, and in plain sentences what was assumed. */
export interface Outline {
  readonly nodes: readonly OutlineNode[]
  readonly notes: readonly string[]
  /** The line of the text (from 1) each node was read from, in reading order. */
  readonly lineNumbers: readonly number[]
  /** Whether the text has a home page beside its lines, and does not say what that is called. */
  readonly hasHome?: boolean
}

interface Draft extends OutlineNode {
  readonly children: Draft[]
}

const bullet = /^([-*+•–◦▪▫‣●○■□·—§]|o(?=\t)|\d+[.)])\s+/u
/** What is to be done, and what is: a box in front, as lists of tasks have one. */
const task = /^(?:\[[ xX]?\]|[☐☑☒✓✔])\s+/u
const trialMark = '(trial page)'
const menuMark = '(not in menus)'

/** The text in front of a mark at its end, in any case of letters; null where it has none. */
export function beforeMark(text: string, mark: string): string | null {
  const at = text.length - mark.length
  return at >= 0 && text.slice(at).toLowerCase() === mark ? text.slice(0, at).trimEnd() : null
}

/** Longest line that is read as a page: longer ones are no labels, and no more is looked at than this. */
export const longestLine = 20_000
/** Tab stops every 8 columns, as terminals and most editors show them. */
const tabWidth = 8

/** How far in a line begins, in columns. */
export function indentOf(line: string): { columns: number; rest: string; tabs: boolean; spaces: boolean } {
  let columns = 0
  let at = 0
  let tabs = false
  let spaces = false
  for (; at < line.length; at++) {
    const ch = line[at]
    if (ch === '\t') {
      columns += tabWidth - (columns % tabWidth)
      tabs = true
    } else if (ch === ' ' || ch === '\u00a0' || ch === '\u3000') {
      columns += 1
      spaces = true
    } else break
  }
  return { columns, rest: line.slice(at), tabs, spaces }
}

/** A line of a plan before it has its place in the tree. */
export interface PlanLine {
  /** The line of the text it begins on, from 1. */
  readonly line: number
  /** How far in it stands; only more or less counts. */
  readonly columns: number
  readonly node: Omit<OutlineNode, 'children'>
}

/** Levels a plan may have: a path of more folders is longer than systems take (PATH_MAX is 4,096 bytes). */
export const mostLevels = 100

/**
 * Puts lines into a tree by how far in they stand. What had to be assumed is in `notes`: lines that came
 * back to a depth that no line above them has, and lines deeper than a plan may be.
 */
export function nestLines(lines: readonly PlanLine[]): Outline {
  const nodes: Draft[] = []
  const open: { columns: number; node: Draft }[] = []
  let uneven = 0
  let tooDeep = 0
  for (const { columns, node: read } of lines) {
    while (open.length > 0 && open[open.length - 1]!.columns >= columns) {
      const closed = open.pop()!
      const under = open[open.length - 1]
      const between = closed.columns > columns && (under ? under.columns : -1) < columns
      if (between && (under || columns > 0)) uneven++
    }
    if (open.length >= mostLevels) {
      tooDeep++
      open.length = mostLevels - 1
    }
    // Field by field: copies by spreading take several times as long.
    const { label, trial, inMenus, details } = read
    const node: Draft = details
      ? { label, trial, inMenus, details, children: [] }
      : { label, trial, inMenus, children: [] }
    const parent = open[open.length - 1]
    if (parent) parent.node.children.push(node)
    else nodes.push(node)
    open.push({ columns, node })
  }
  const notes = [...unevenNote(uneven)]
  if (tooDeep > 0)
    notes.push(
      `${tooDeep === 1 ? 'One line stands' : `${tooDeep} lines stand`} deeper than ${mostLevels} levels, and ${tooDeep === 1 ? 'was' : 'were'} put at that one.`,
    )
  return { nodes, lineNumbers: lines.map(({ line }) => line), notes }
}

function unevenNote(uneven: number): string[] {
  if (uneven === 0) return []
  return [
    uneven === 1
      ? 'One line is indented to a depth not used before; it was put under the nearest line that is less deep.'
      : `${uneven} lines are indented to depths not used before; each was put under the nearest line that is less deep.`,
  ]
}

/** One written line as a label and its marks. A backslash in front keeps what follows literal. */
function readLine(rest: string): Omit<OutlineNode, 'children'> {
  let text = rest.trimEnd()
  if (!text.startsWith('\\')) text = text.replace(bullet, '').replace(task, '')
  else text = text.slice(1)
  let trial = false
  let inMenus = true
  for (;;) {
    const unmarked = beforeMark(text, trialMark) ?? beforeMark(text, menuMark)
    if (unmarked === null) break
    if (beforeMark(text, trialMark) !== null) trial = true
    else inMenus = false
    text = unmarked
  }
  if (text.endsWith('\\')) text = text.slice(0, -1)
  return { label: cleanLabel(text), trial, inMenus }
}

/** What most labels are: printable ASCII with single spaces in it. */
const isClean = /^[!-~]+(?: [!-~]+)*$/

/** A label as it is kept: one line, no control characters, no space at either end. */
export function cleanLabel(text: string): string {
  if (isClean.test(text)) return text
  return text
    .replace(/\p{Surrogate}|\p{Noncharacter_Code_Point}/gu, '\ufffd')

    .replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, ' ')
    .replace(/\s+/gu, ' ')
    .trim()
}

/**
 * Reads a plan typed as indented text: a line a page, deeper lines under the line before.
 * Tabs or spaces, any width; a line that comes back to a width never used goes with the
 * nearest shallower one. Without indentation, repeated signs or outline numbers tell the levels. Never fails; what had to be assumed is in `notes`.
 */
export function readOutline(text: string): Outline {
  const typed: { line: number; columns: number; rest: string }[] = []
  let tabs = false
  let spaces = false
  for (const [index, line] of undrawn(text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/)).entries()) {
    const indent = indentOf(line)
    if (readLine(indent.rest).label === '') continue
    tabs ||= indent.tabs
    spaces ||= indent.spaces
    typed.push({ line: index + 1, columns: indent.columns, rest: indent.rest })
  }
  const levels = readLevels(typed)
  const lines = typed.map(({ line, columns, rest }, index): PlanLine => {
    const levelled = levels?.lines[index]
    const node = readLine(levelled?.rest ?? rest)
    // Nothing but a sign or a number: it is all that the line says.
    return node.label === ''
      ? { line, columns: levelled?.columns ?? columns, node: readLine(rest) }
      : { line, columns: levelled?.columns ?? columns, node }
  })
  const nested = nestLines(lines)
  const notes = tabs && spaces ? ['Tabs and spaces are mixed; a tab was taken as up to 8 spaces.'] : []
  if (levels?.note) notes.push(levels.note)
  return { ...nested, notes: [...notes, ...nested.notes] }
}

/** @param isLiteral whether what it begins with would be taken for its place among others */
function writeLine(node: OutlineNode, isLiteral: boolean): string {
  let text = node.label
  const isMarked = [trialMark, menuMark].some((mark) => beforeMark(text, mark) !== null)
  if (text.endsWith('\\') || isMarked) text += '\\'
  if (!node.inMenus) text += ' (not in menus)'
  if (node.trial) text += ' (trial page)'
  return isLiteral ||
    bullet.test(text) ||
    task.test(text) ||
    hasSigns(text) ||
    isBranch(text) ||
    text.startsWith('\\')
    ? `\\${text}`
    : text
}

/** Writes a plan as text, two spaces a level, one final newline. `readOutline` reads it back. */
export function writeOutline(nodes: readonly OutlineNode[]): string {
  const all = walkOutline(nodes)
  const isNumbered = areNumbered(all.map(({ node }) => node.label))
  const isCounted = countedLines(all.map(({ node, depth }) => ({ columns: depth, rest: node.label })))
  const lines = all.map(
    ({ node, depth }, index) =>
      '  '.repeat(depth) + writeLine(node, isCounted.has(index) || (isNumbered && /^\d/.test(node.label))),
  )
  if (lines.length === 0) return ''
  const text = lines.join('\n') + '\n'
  // What would be taken for another form is said to be none.
  return guessForm(text) === 'text' ? text : `\\${text}`
}

/** Every line of a plan in reading order, with its depth. */
export function walkOutline(nodes: readonly OutlineNode[]): { node: OutlineNode; depth: number }[] {
  const lines: { node: OutlineNode; depth: number }[] = []
  const stack = nodes.map((node) => ({ node, depth: 0 })).reverse()
  while (stack.length > 0) {
    const line = stack.pop()!
    lines.push(line)
    for (let at = line.node.children.length - 1; at >= 0; at--)
      stack.push({ node: line.node.children[at]!, depth: line.depth + 1 })
  }
  return lines
}
