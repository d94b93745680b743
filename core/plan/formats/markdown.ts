import {
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
  { mark: ' *(trial page)*', at: /\s*[*_]\(trial page\)[*_]$/i, set: { trial: true } },
  { mark: ' *(not in menus)*', at: /\s*[*_]\(not in menus\)[*_]$/i, set: { inMenus: false } },
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
  const flags = { trial: false, inMenus: true }
  for (let changed = true; changed;) {
    changed = false
    for (const { at, set } of marks)
      if (at.test(text)) {
        text = text.replace(at, '')
        Object.assign(flags, set)
        changed = true
      }
  }
  // A link stands for its text; emphasis and code for what they hold; then escapes for their sign.
  const label = text
    .replace(/(?<!\\)\[((?:[^\]\\]|\\.)*)\]\((?:[^()\\]|\\.)*\)/g, '$1')
    .replace(/(?<!\\)(\*\*|__|\*|`)(?=\S)((?:[^*_`\\]|\\.)+?)(?<=\S)\1/g, '$2')
    .replace(/\\([!-/:-@[-`{-~])/g, '$1')
  return { ...flags, label: cleanLabel(label) }
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
