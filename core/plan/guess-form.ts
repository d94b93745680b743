import { undrawn } from './drawn-tree'
import { headerOf, levelColumns, saysLabelOrLevel } from './formats/columns'

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

/** A page and those below it in one line: `Visit: Prices, Getting here`. */
export const pageAndBelow = /^([^:,;]{1,80}):\s+(\S[^:;,]*,[^:;]*)$/u

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

/** Whether lines are ways down to pages. */
function areWays(written: readonly string[], first: string): boolean {
  if (written.some((line) => depthOf(line) !== depthOf(first)) || /^\s*[>›»→/]/u.test(first)) return false
  const lines = written.map((line) => line.trim())
  const parted = lines.filter((line) => stepSign.test(line))
  if (parted.length > 1 && parted.length * 2 >= lines.length) return true
  const listed = lines.filter((line) => pageAndBelow.test(line))
  if (listed.length > 1 && lines.every((line) => pageAndBelow.test(line) || !/[:,;]/.test(line))) return true
  // Without spaces a slash says little: `News/Events` may be one page. Two that begin alike are below one.
  const slashed = lines.filter((line) => /^[^/]+\/[^/]/.test(line))
  const tops = slashed.map((line) => line.slice(0, line.indexOf('/')))
  return slashed.length * 2 >= lines.length && new Set(tops).size < tops.length
}

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
  if (isTable(lines) || isHeader(first, lines) || areRows(lines)) return 'csv'
  if (areAddresses(lines, isDrawn)) return 'addresses'
  if (isDrawn || lines.length < 2) return 'text'
  const inTabs = lines.filter((line) => /\S\t/.test(line) && !bulleted.test(line))
  if (inTabs.length * 2 > lines.length && inTabs.length > 1) return 'csv'
  return areWays(lines, first) ? 'ways' : 'text'
}

/** Whether a line names columns of a plan, and is parted by a sign that parts the line beneath it too. */
function isHeader(first: string, [, second]: readonly string[]): boolean {
  const [sign] = /[,;\t]/.exec(first) ?? []
  if (sign === undefined || (second !== undefined && !second.includes(sign))) return false
  const cells = first.split(sign).map((cell) => cell.trim().replace(/^"(.*)"$/, '$1'))
  const header = headerOf(cells)
  return (
    cells.some(saysLabelOrLevel) ||
    (header.includes('label') && header.includes('address')) ||
    levelColumns(header, cells).length > 0
  )
}

/**
 * Whether lines without a header are rows all the same: parted by one sign with no space after it as often in each of them, and
 * with levels in front, or with sections that are said again in the next row.
 */
function areRows(lines: readonly string[]): boolean {
  const [, sign] = /^[^,;]*([,;])\S/.exec(lines[1] ?? '') ?? []
  if (sign === undefined || lines.some((line) => line.includes(`${sign} `))) return false
  const rows = lines.map((line) => line.split(sign))
  if (rows.some(({ length }) => length !== rows[0]!.length)) return false
  const isNumbered = rows.slice(1).every(([number = '']) => /^\d{1,4}(?:\.\d{1,4})*$/.test(number.trim()))
  const isSaidAgain = rows.some(([top], index) => index > 0 && top !== '' && top === rows[index - 1]![0])
  return isNumbered || (isSaidAgain && rows.every(([top]) => top !== ''))
}
