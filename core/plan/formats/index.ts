import { Lines } from '#core/markup'
import {
  longestLine,
  type Outline,
  type OutlineNode,
  pageDetails,
  type PlanRefusal,
  readOutline,
  walkOutline,
  writeOutline,
} from '../outline'
import { guessForm, type PlanForm, type PlanFormat } from '../guess-form'
import { readAddressPlan } from './addresses'
import { readCsvPlan, writeCsvPlan } from './csv'
import { readMarkdownPlan, writeMarkdownPlan } from './markdown'
import { readMenuPlan } from './menu'
import { readOpmlPlan, writeOpmlPlan } from './opml'
import { readWaysPlan } from './ways'

export type { PlanForm, PlanFormat }

export const planFormats: Readonly<
  Record<PlanFormat, { readonly name: string; readonly extension: string; readonly mediaType: string }>
> = {
  text: { name: 'indented text', extension: '.txt', mediaType: 'text/plain' },
  markdown: { name: 'a Markdown list', extension: '.md', mediaType: 'text/markdown' },
  csv: { name: 'CSV', extension: '.csv', mediaType: 'text/csv' },
  opml: { name: 'OPML', extension: '.opml', mediaType: 'text/x-opml' },
}

/** All that a plan is read from. */
export const planForms: Readonly<Record<PlanForm, { readonly name: string }>> = {
  ...planFormats,
  addresses: { name: 'a list of addresses' },
  ways: { name: 'ways down to pages' },
  menu: { name: 'a menu in HTML' },
}

/** Whether a plan can be written in a form, too. */
export const isWritten = (form: PlanForm): form is PlanFormat => form in planFormats

/** What only some formats can carry, in the words of the interface. */
const detailWords = {
  ownName: 'own names',
  title: 'titles',
  description: 'descriptions',
  language: 'languages',
  dated: 'dates',
  date: 'dates',
} as const

/**
 * Writes a plan.
 * @returns the text, and what the format cannot carry of this plan, in words
 */
export function writePlan(
  format: PlanFormat,
  nodes: readonly OutlineNode[],
  title: string,
): { text: string; lost: string[] } {
  const plain = format === 'text' || format === 'markdown'
  const lacking = plain
    ? pageDetails
        .filter((name) => walkOutline(nodes).some(({ node }) => node.details?.[name] !== undefined))
        .map((name) => detailWords[name])
    : []
  const lost = [...new Set(lacking)]
  switch (format) {
    case 'text':
      return { text: writeOutline(nodes), lost }
    case 'markdown':
      return { text: writeMarkdownPlan(nodes), lost }
    case 'csv':
      return { text: writeCsvPlan(nodes), lost }
    case 'opml':
      return { text: writeOpmlPlan(nodes, title), lost }
  }
}

/** Guesses a form: by the file's name when it says one, else by how the text begins. */
export function guessPlanForm(text: string, fileName = ''): PlanForm {
  const name = fileName.toLowerCase()
  if (/\.opml$/.test(name)) return 'opml'
  if (/\.(csv|tsv)$/.test(name)) return 'csv'
  if (/\.(md|markdown)$/.test(name)) return 'markdown'
  return guessForm(text)
}

/**
 * Lines, or tags where it is markup, that a plan is read from at the most: several for each page that a site can have. What has
 * more is no plan, and reading it would take the memory of a whole server.
 */
const mostRead = 250_000

/** The first line that is longer than a line of a plan can be, or one too many. */
function refuseLines(text: string): PlanRefusal | null {
  const ends = /\r\n|\n|\r|$/g
  let line = 1
  for (let at = 0; at < text.length; line++) {
    ends.lastIndex = at
    const { index, 0: end } = ends.exec(text)!
    if (index - at > longestLine) {
      const size = `${index - at} characters`
      return { line, reason: `This line has ${size}; a line of a plan has at most ${longestLine}.` }
    }
    if (line > mostRead)
      return { line, reason: `A plan is read from ${mostRead.toLocaleString('en')} lines at the most.` }
    at = index + end.length
  }
  return null
}

/** Where markup has more tags than can be read. */
function refuseTags(text: string): PlanRefusal | null {
  let count = 0
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', at + 1))
    if (++count > mostRead) {
      const { line } = new Lines(text).placeOf(at)
      return { line, reason: `A plan is read from ${mostRead.toLocaleString('en')} tags at the most.` }
    }
  return null
}

/** Reads a plan, or says in which line and why it is none. */
export function readPlan(form: PlanForm, text: string): Outline | { refusal: PlanRefusal } {
  // What is parsed has lines of any length.
  const isMarkup = form === 'opml' || form === 'menu' || (form === 'addresses' && /^\s*</.test(text))
  const tooMuch = isMarkup ? refuseTags(text) : refuseLines(text)
  if (tooMuch) return { refusal: tooMuch }
  switch (form) {
    case 'text': {
      const outline = readOutline(text)
      if (outline.nodes.length > 0) return outline
      return { refusal: { line: 1, reason: 'No line of this text has a label.' } }
    }
    case 'markdown':
      return readMarkdownPlan(text)
    case 'csv':
      return readCsvPlan(text)
    case 'opml':
      return readOpmlPlan(text)
    case 'addresses':
      return readAddressPlan(text)
    case 'ways':
      return readWaysPlan(text)
    case 'menu':
      return readMenuPlan(text)
  }
}

/**
 * A file's bytes as text: by its byte order mark, as UTF-8, and where it is none, as Windows-1252,
 * which is what older programs of the West wrote. What was assumed is in `notes`.
 */
export function decodePlanFile(
  bytes: Uint8Array,
): { text: string; notes: string[] } | { refusal: PlanRefusal } {
  const starts = (...signs: number[]) => signs.every((sign, index) => bytes[index] === sign)
  const decode = (label: string, fatal = false) => new TextDecoder(label, { fatal }).decode(bytes)
  if (starts(0xff, 0xfe))
    return { text: decode('utf-16le'), notes: ['Read as UTF-16, as its first bytes say.'] }
  if (starts(0xfe, 0xff))
    return { text: decode('utf-16be'), notes: ['Read as UTF-16, as its first bytes say.'] }
  const zero = bytes.indexOf(0)
  if (zero >= 0) {
    const line = bytes.subarray(0, zero).filter((sign) => sign === 10).length + 1
    return { refusal: { line, reason: 'This is no text file: it holds zero bytes.' } }
  }
  try {
    return { text: decode('utf-8', true), notes: [] }
  } catch {
    return {
      text: decode('windows-1252'),
      notes: ['It is not UTF-8, so it was read as Windows-1252; look at letters with accents.'],
    }
  }
}
