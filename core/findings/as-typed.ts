import { type CssNode, lexer, parse, walk } from 'css-tree'
import { parseHtml, type Range, readHtml } from '#core/markup'
import { compileTemplate, fillsOf } from '#core/template'
import { markupSentence } from './rules/markup/markup-error'
import { outsideSentence } from './rules/outside-slots'
import { tagSentence } from './rules/markup/tags-do-not-match'
import { unknownSentence } from './rules/unknown-word'

/** What a text is: what a page holds, a template, a style sheet. */
export type TypedAs = 'html' | 'template' | 'css'

/** Something wrong in a text while it is typed, where it stands. */
export interface TypedFault extends Range {
  readonly words: string
}

/** Faults shown at once: of more, the first ones are mended first. */
const mostFaults = 200

/** Everything that a text says of itself that is wrong. Nothing of the site is known here. */
export function faultsInText(text: string, as: TypedAs): TypedFault[] {
  const faults = as === 'css' ? inStyle(text) : as === 'template' ? inTemplate(text) : inPage(text)
  return faults
    .map((fault) => ({ ...fault, end: Math.max(fault.end, Math.min(fault.start + 1, text.length)) }))
    .sort((a, b) => a.start - b.start)
    .slice(0, mostFaults)
}

function inPage(text: string): TypedFault[] {
  const { errors, ids, tags } = readHtml(text)
  const repeated = new Set(ids.filter((id, index) => ids.indexOf(id) !== index).slice(0, mostFaults))
  return [
    ...errors.map(({ code, start, end }) => ({ start, end, words: markupSentence(code) })),
    ...tags.map((fault) => ({ start: fault.start, end: fault.end, words: tagSentence(fault) })),
    ...[...repeated].flatMap((id) => repeatedId(text, id)),
  ]
}

/** The second and later places that carry one id. */
function repeatedId(text: string, id: string): TypedFault[] {
  const found: TypedFault[] = []
  for (const quote of [`id="${id}"`, `id='${id}'`, `id=${id}`])
    for (let at = text.indexOf(quote); at >= 0 && found.length < 50; at = text.indexOf(quote, at + 1))
      if (/\s/.test(text[at - 1] ?? ''))
        found.push({ start: at, end: at + quote.length, words: `The id “${id}” is given twice: a link to it leads to the first.` }) // prettier-ignore
  return found.sort((a, b) => a.start - b.start).slice(1)
}

function inTemplate(text: string): TypedFault[] {
  const { unknown, slots, tags, outside } = compileTemplate(text)
  const isDocument = /<(!doctype|html|head|body)[\s>]/i.test(text)
  const seen = new Set<string>()
  const twice = slots.flatMap(({ name, start, end }): TypedFault[] => {
    if (!seen.has(name)) {
      seen.add(name)
      return []
    }
    return [{ start, end, words: `There is a slot “${name}” already: what a page holds there would be shown twice.` }] // prettier-ignore
  })
  // What fills the slots of another is read by itself, as it will stand there.
  const errors = isDocument
    ? parseHtml(text, true).errors
    : fillsOf(text).flatMap(({ start, end }) =>
        parseHtml(text.slice(start, end), false).errors.map((error) => ({
          ...error,
          start: error.start + start,
          end: error.end + start,
        })),
      )
  return [
    ...errors.map(({ code, start, end }) => ({ start, end, words: markupSentence(code) })),
    ...tags.map((fault) => ({ start: fault.start, end: fault.end, words: tagSentence(fault) })),
    ...unknown.map((one) => ({ start: one.start, end: one.end, words: unknownSentence(one) })),
    ...(isDocument ? [] : outside).map(({ start, end }) => ({ start, end, words: outsideSentence })),
    ...twice,
  ]
}

const isOwnOrVendors = (property: string) => property.startsWith('--') || /^-\w+-/.test(property)

function inStyle(text: string): TypedFault[] {
  const faults: TypedFault[] = []
  const tree = parse(text, {
    positions: true,
    parseCustomProperty: false,
    onParseError: ({ offset }) =>
      faults.push({ start: offset, end: endOfLine(text, offset), words: 'Something here is no CSS, and browsers pass over it.' }), // prettier-ignore
  })
  walk(tree, (node: CssNode) => {
    if (node.type !== 'Declaration' || !node.loc || isOwnOrVendors(node.property)) return
    const { start, end } = node.loc
    if (lexer.getProperty(node.property) === null) {
      faults.push({ start: start.offset, end: start.offset + node.property.length, words: `“${node.property}” is no property of CSS.` }) // prettier-ignore
      return
    }
    // What stands for something else is known only where it is used.
    const written = text.slice(start.offset, end.offset)
    if (/var\(|env\(|calc\(|color-mix\(|light-dark\(|attr\(/i.test(written) || node.value.type !== 'Value')
      return
    const { error } = lexer.matchProperty(node.property, node.value)
    if (error && error.name === 'SyntaxMatchError')
      faults.push({ start: start.offset, end: end.offset, words: `This is no value that “${node.property}” can have.` }) // prettier-ignore
  })
  return faults
}

const endOfLine = (text: string, from: number) => {
  const end = text.indexOf('\n', from)
  return end < 0 ? text.length : end
}
