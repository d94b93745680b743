import { SaxesParser } from 'saxes'
import { homeNameOf } from '#core/site'
import { undrawn } from '../drawn-tree'
import { cleanLabel, indentOf, nestLines, type Outline, type PlanLine, type PlanRefusal } from '../outline'

/** A page's file among others, or its address. */
interface Address {
  readonly line: number
  /** Folders from the top and the name in them; none for the home page. */
  readonly steps: readonly string[]
}

/** Endings of pages; a file with any other is none. */
const pageEnding = /\.(?:html?|xhtml|shtml|php\d?|aspx?|jsp)$/i
const otherEnding = /\.[a-z][a-z0-9]{0,4}$/i

const decoded = (step: string): string => {
  try {
    return decodeURIComponent(step)
  } catch {
    return step
  }
}

/** What a page is called after its file: `getting-here.html` and `GettingHere.htm` are “Getting here”. */
function labelOf(step: string): string {
  const words = step
    .replace(pageEnding, '')
    .replace(/(?<=\p{Ll})(?=\p{Lu}\p{Ll})/gu, ' ')
    .replace(/[-_+.\s]+/g, ' ')
    .trim()
  // Words that were only told apart by capitals are a sentence's words.
  const isCamel = /^\p{Lu}?\p{Ll}+(?:\p{Lu}\p{Ll}+)+$/u.test(step.replace(pageEnding, ''))
  const told = isCamel ? words.toLowerCase() : words
  return cleanLabel(told.charAt(0).toUpperCase() + told.slice(1)) || step
}

/** A name that no scheme makes of the label stays the page's own. */
function ownNameOf(step: string): { details?: { ownName: string } } {
  const name = step.replace(pageEnding, '')
  return /^[\p{Ll}\p{N}]+(?:-[\p{Ll}\p{N}]+)*$/u.test(name) ? {} : { details: { ownName: name } }
}

/** What a line, or an element, gives as the address of something. */
interface Given {
  readonly line: number
  readonly text: string
}

/** Says that what was read is no XML from here on. */
class Broken extends Error {}

/** Addresses of a sitemap (sitemaps protocol 0.9, `loc`); refused where its XML is broken. */
function addressesOfSitemap(text: string): Given[] | { readonly refusal: PlanRefusal } {
  const found: { line: number; text: string }[] = []
  const parser = new SaxesParser()
  let within = 0
  // The first error is enough: a file can have one at each letter.
  parser.on('error', () => {
    throw new Broken()
  })
  parser.on('opentag', ({ name }) => {
    if (/^(?:\w+:)?loc$/.test(name) && ++within === 1) found.push({ line: parser.line, text: '' })
  })
  parser.on('text', (words) => {
    if (within === 1) found[found.length - 1]!.text += words
  })
  parser.on('closetag', ({ name }) => {
    if (/^(?:\w+:)?loc$/.test(name)) within -= 1
  })
  try {
    parser.write(text).close()
  } catch (error) {
    if (!(error instanceof Broken)) throw error
    return { refusal: { line: parser.line, reason: 'Here the file stops being well-formed XML.' } }
  }
  return found.map(({ line, text }) => ({ line, text: text.trim() }))
}

/** An address without a bullet in front and without quotation marks around it. */
function bare(line: string): string {
  const text = line
    .trim()
    .replace(/^[-*+•]\s+/, '')
    .replace(/^["'<]+/, '')
  let end = text.length
  while (end > 0 && /["'>,;]/.test(text[end - 1]!)) end--
  return text.slice(0, end)
}

/** Lines of a list or of a drawn tree, each as its path from the top. */
function pathsOfLines(text: string): Given[] {
  const lines = undrawn(text.split(/\r\n|\n|\r/))
  const found: { line: number; text: string }[] = []
  const open: { readonly columns: number; readonly path: string; readonly at: number }[] = []
  for (const [index, line] of lines.entries()) {
    const { columns, rest } = indentOf(line)
    const name = bare(rest)
    if (name === '') continue
    while (open.length > 0 && open[open.length - 1]!.columns >= columns) open.pop()
    const above = open[open.length - 1]
    // A line with others under it is a folder of theirs, and no page of its own.
    if (above) found[above.at]!.text = ''
    const path = above ? `${above.path.replace(/\/$/, '')}/${name}` : name
    open.push({ columns, path, at: found.length })
    found.push({ line: index + 1, text: path })
  }
  return found.filter((one) => one.text !== '')
}

interface Reading {
  readonly addresses: readonly Address[]
  readonly elsewhere: number
  readonly files: number
}

/** Addresses by their steps: those of one host, and of pages. */
function stepsOf(given: readonly Given[]): Reading {
  let host: string | null = null
  let [elsewhere, files] = [0, 0]
  const addresses: Address[] = []
  for (const { line, text } of given) {
    const [, own, rest = ''] =
      /^(?:https?:\/\/(?:www\.)?([^/?#]*)|[A-Za-z]:(?=[\\/]))?(.*)$/i.exec(text) ?? []
    if (own !== undefined) {
      host ??= own.toLowerCase()
      if (own.toLowerCase() !== host) {
        elsewhere += 1
        continue
      }
    }
    const [, path = '', query = ''] = /^([^?#]*)(?:\?([^#]*))?/.exec(rest) ?? []
    const steps = path
      .split(/[\\/]/)
      .filter((step) => step !== '' && step !== '.')
      .map(decoded)
    const last = steps[steps.length - 1]
    const isFolder = /[\\/]$/.test(path)
    if (last !== undefined && !isFolder && otherEnding.test(last) && !pageEnding.test(last)) {
      files += 1
      continue
    }
    if (last !== undefined && !isFolder && pageEnding.test(last) && homeNameOf(last) !== null) steps.pop()
    // One file for many pages tells them apart by what it is asked.
    const asked = query === '' ? '' : decoded(query.slice(query.lastIndexOf('=') + 1).replaceAll('+', ' '))
    if (asked !== '') steps.push(asked)
    addresses.push({ line, steps: steps.filter((step) => step !== '..') })
  }
  return { addresses, elsewhere, files }
}

interface Draft {
  line: number
  readonly step: string
  readonly below: Map<string, Draft>
}

/**
 * Reads a plan from the addresses or the files of a site, one a line, from a sitemap, or from a tree of files as tools draw
 * it: folders are what pages stand under, a folder's home page is the folder's own, and labels come from names.
 */
export function readAddressPlan(text: string): Outline | { refusal: PlanRefusal } {
  const unmarked = text.replace(/^\ufeff/, '')
  const given = /^\s*</.test(unmarked) ? addressesOfSitemap(unmarked) : pathsOfLines(unmarked)
  if ('refusal' in given) return given
  const { addresses, elsewhere, files } = stepsOf(given)
  if (addresses.length === 0)
    return { refusal: { line: 1, reason: 'No line of this text is the address of a page.' } }
  const common = commonSteps(addresses)
  const top: Draft = { line: 0, step: '', below: new Map() }
  for (const { line, steps } of addresses) {
    let at = top
    for (const step of steps.slice(common)) {
      // A page and the folder of its name are one.
      const name = step.replace(pageEnding, '')
      let next = at.below.get(name)
      if (!next) at.below.set(name, (next = { line, step, below: new Map() }))
      at = next
    }
    if (at === top) top.line ||= line
  }
  const lines: PlanLine[] = []
  const open = [{ depth: 1, drafts: [...top.below.values()].reverse() }]
  while (open.length > 0) {
    const { depth, drafts } = open[open.length - 1]!
    const next = drafts.pop()
    if (!next) {
      open.pop()
      continue
    }
    const node = { label: labelOf(next.step), trial: false, inMenus: true, ...ownNameOf(next.step) }
    lines.push({ line: next.line, columns: depth, node })
    open.push({ depth: depth + 1, drafts: [...next.below.values()].reverse() })
  }
  const nested = nestLines(lines)
  const notes = ['Labels were read from the names of files and folders.']
  if (files > 0)
    notes.push(
      files === 1
        ? 'One file that is no page was left out.'
        : `${files} files that are no pages were left out.`,
    )
  if (elsewhere > 0)
    notes.push(
      elsewhere === 1
        ? 'One address at another host was left out.'
        : `${elsewhere} addresses at other hosts were left out.`,
    )
  return { ...nested, notes: [...notes, ...nested.notes], hasHome: top.line > 0 }
}

/** How many folders all pages stand in that are no part of the site: up to the one whose home page is among them. */
function commonSteps(addresses: readonly Address[]): number {
  const [first] = addresses
  let common = first!.steps.length
  for (const { steps } of addresses) {
    let same = 0
    while (same < common && steps[same] === first!.steps[same]) same++
    common = Math.min(common, same)
  }
  // With no home page at the end of them, the last is a section like any other.
  return addresses.some(({ steps }) => steps.length === common) ? common : 0
}
