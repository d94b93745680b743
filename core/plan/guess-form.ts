import { undrawn } from './drawn-tree'

/** The open formats a plan is taken in and out in. */
export type PlanFormat = 'text' | 'markdown' | 'csv' | 'opml'
/** What a plan is read from besides: what people have of a site that is elsewhere. */
export type PlanForm = PlanFormat | 'addresses' | 'ways' | 'menu'

/** Lines looked at to tell what a text is, and letters of it: it is told at each one that is typed. */
const mostLines = 200
const mostLetters = 20_000

const page = /\.(?:html?|xhtml|shtml|php\d?|aspx?|jsp)(?:[?#]\S*)?$/i
/** An address or a path: with its scheme, from the top or from here, or of a folder. */
const address = /^(?:https?:\/\/|\.{0,2}\/|[A-Za-z]:[\\/])\S+$|^\S+\/$/i
const hasLetter = /[\p{L}\p{N}]/u
const file = /^\S+\.[a-z][a-z0-9]{0,4}$/i

/** A way down to a page, as breadcrumbs show it: what parts its steps. */
export const stepSign = /\s(?:>|›|»|→|\/)\s/u

/** How far in a line stands; only more or less counts. */
const depthOf = (line: string): number => /^\s*/.exec(line)![0].length

/** Whether a text is a list of addresses or files, one a line, or a drawn or indented tree of files. */
function areAddresses(lines: readonly string[], isDrawn: boolean): boolean {
  const isStrong = (line: string) =>
    (address.test(line) && hasLetter.test(line)) || (page.test(line) && !/^[-*+•] |\t/.test(line))
  const isNested = lines.some((line) => depthOf(line) !== depthOf(lines[0]!))
  if (lines.length < 2 && !/^https?:\/\/\S+$/i.test(lines[0]!.trim())) return false
  if (isNested && !isDrawn) return false
  let strong = 0
  for (const [index, line] of lines.entries()) {
    const text = line.trim()
    if (isStrong(text)) strong += 1
    else if (file.test(text)) continue
    // A folder of a tree is anything that something stands under, and its top any name.
    else if (!isNested || (depthOf(lines[index + 1] ?? '') <= depthOf(line) && index > 0)) return false
  }
  return strong > 0
}

/** A list entry as word processors copy it: its bullet or number, a tab, and its words. */
const bulleted = /^\s*(?:\S|[\d.]{1,20}\)?|[A-Za-z]{1,7}[.)])\t[^\t]*$/u

const isTable = ([first = '', second = '']: readonly string[]): boolean =>
  first.trimStart().startsWith('|') && /^\s*\|[\s:|-]+$/.test(second) && second.includes('-')

/** Names of the columns that say what a page is called. */
const labelColumn = /^"?(?:level|label|page|pages|page name|name|menu entry)"?$/i

/** Tells from its beginning what a text is that a plan is read from. */
export function guessForm(text: string): PlanForm {
  const start = text
    .slice(0, mostLetters)
    .replace(/^\ufeff/, '')
    .trimStart()
  if (start.startsWith('\\')) return 'text'
  if (/^<(?:\?xml|opml|urlset|sitemapindex|!--)/i.test(start) && !/<(?:html|ul|ol|nav|li|a)\b/i.test(start))
    return /<urlset\b/i.test(start) ? 'addresses' : 'opml'
  if (start.startsWith('<') && /<(?:li|a)\b/i.test(start)) return 'menu'
  const written = start.split(/\r\n|\n|\r/, mostLines + 1)
  // The last line may not be whole.
  if (written.length > mostLines || text.length > mostLetters) written.pop()
  const plain = undrawn(written)
  const isDrawn = plain !== written
  const lines = plain.filter((line) => line.trim() !== '')
  const [first] = lines
  if (first === undefined) return 'text'
  const cells = first.split(/[,;\t]/)
  if (cells.length > 1 && cells.some((cell) => labelColumn.test(cell.trim())) && isParted(lines, first))
    return 'csv'
  if (isTable(lines)) return 'csv'
  if (areAddresses(lines, isDrawn)) return 'addresses'
  if (isDrawn || lines.length < 2) return 'text'
  const inTabs = lines.filter((line) => /\S\t/.test(line) && !bulleted.test(line))
  if (inTabs.length * 2 > lines.length && inTabs.length > 1) return 'csv'
  const ways = lines.filter((line) => stepSign.test(line.trim()))
  const isFlat = lines.every((line) => depthOf(line) === depthOf(first))
  return isFlat && ways.length * 2 >= lines.length && ways.length > 1 && !/^[>›»→/]/u.test(first.trim())
    ? 'ways'
    : 'text'
}

/** Whether a header's signs part the line beneath it too. */
function isParted([, second]: readonly string[], header: string): boolean {
  const sign = /[,;\t]/.exec(header)![0]
  return second === undefined || second.includes(sign)
}
