import { SaxesParser } from 'saxes'
import { detailIn } from './details'
import {
  cleanLabel,
  nestLines,
  pageDetails,
  type Outline,
  type OutlineNode,
  type PageDetails,
  type PlanLine,
  type PlanRefusal,
} from '../outline'

/** Attributes of ours stand in a namespace of their own, as OPML 2.0 ("Extending OPML") asks. */
const namespace = 'urn:rubricant:plan:1'

/** Elements in one another, at most: a parser of XML looks through all that are open for each name. */
const deepestXml = 1_000

class Stopped extends Error {}

/** Reads a plan from OPML 2.0 (1.0 too): each `outline` is a page, its `text` the label. */
export function readOpmlPlan(text: string): Outline | { refusal: PlanRefusal } {
  const lines: PlanLine[] = []
  const notes: string[] = []
  let refusal: PlanRefusal | null = null
  let depth = 0
  let root: string | null = null
  let unnamed = 0
  const parser = new SaxesParser({ xmlns: true })
  const stop = (reason: string): never => {
    refusal ??= { line: parser.line, reason }
    throw new Stopped()
  }
  // The first error is enough, and a parser that goes on tells of each tag that is left open.
  parser.on('error', () => stop('Here the file stops being well-formed XML.'))
  let line = 1
  let elements = 0
  parser.on('opentagstart', () => {
    line = parser.line
    if (++elements > deepestXml) stop(`Elements stand more than ${deepestXml} levels deep in one another.`)
  })
  parser.on('opentag', (tag) => {
    root ??= tag.local
    if (tag.local !== 'outline') return
    depth += 1
    const attributes = Object.values(tag.attributes)
    const value = (name: string, uri = '') =>
      attributes.find((attribute) => attribute.local === name && attribute.uri === uri)?.value
    const label = cleanLabel(value('text') ?? value('title') ?? '')
    if (label === '') {
      unnamed += 1
      return
    }
    const own = attributes.some(({ uri }) => uri === namespace) ? pageDetails : []
    const details = Object.fromEntries(
      own
        .map((name) => [name, detailIn(name, cleanLabel(value(name, namespace) ?? ''))])
        .filter(([, found]) => found !== null),
    ) as PageDetails
    lines.push({
      line,
      columns: depth,
      node: {
        label,
        trial: value('trial', namespace) === 'true',
        inMenus: value('inMenus', namespace) !== 'false',
        ...(Object.keys(details).length > 0 && { details }),
      },
    })
  })
  parser.on('closetag', (tag) => {
    elements -= 1
    if (tag.local === 'outline') depth -= 1
  })
  try {
    parser.write(text.replace(/^\ufeff/, '')).close()
  } catch (error) {
    if (!(error instanceof Stopped)) throw error
  }
  if (refusal) return { refusal }
  if (root !== 'opml')
    return { refusal: { line: 1, reason: `This is no OPML: its first element is “${root ?? 'missing'}”.` } }
  if (lines.length === 0) return { refusal: { line: 1, reason: 'The file has no outline with a text.' } }
  if (unnamed > 0)
    notes.push(
      `${unnamed} ${unnamed === 1 ? 'outline has' : 'outlines have'} no text and ${unnamed === 1 ? 'was' : 'were'} left out; what stands below moved up.`,
    )
  const nested = nestLines(lines)
  return { ...nested, notes: [...notes, ...nested.notes] }
}

// Line breaks and tabs in an attribute would be read back as spaces (XML 1.0 §3.3.3); labels have none.
const escape = (value: string) =>
  value.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;')

/** Writes a plan as OPML 2.0. */
export function writeOpmlPlan(nodes: readonly OutlineNode[], title: string): string {
  const lines = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<opml version="2.0" xmlns:plan="${namespace}">`,
    '  <head>',
    `    <title>${escape(title)}</title>`,
    '  </head>',
    '  <body>',
  ]
  type Step = { node: OutlineNode; depth: number } | { close: number }
  const stack: Step[] = [...nodes].reverse().map((node) => ({ node, depth: 2 }))
  for (let step = stack.pop(); step; step = stack.pop()) {
    if ('close' in step) {
      lines.push(`${'  '.repeat(step.close)}</outline>`)
      continue
    }
    const { node, depth } = step
    const extra = [
      node.trial ? ' plan:trial="true"' : '',
      node.inMenus ? '' : ' plan:inMenus="false"',
      ...Object.entries(node.details ?? {}).map(
        ([name, value]) => ` plan:${name}="${escape(String(value))}"`,
      ),
    ].join('')
    const open = `${'  '.repeat(depth)}<outline text="${escape(node.label)}"${extra}`
    if (node.children.length === 0) lines.push(`${open}/>`)
    else {
      lines.push(`${open}>`)
      stack.push({ close: depth })
      for (const child of [...node.children].reverse()) stack.push({ node: child, depth: depth + 1 })
    }
  }
  lines.push('  </body>', '</opml>', '')
  return lines.join('\n')
}
