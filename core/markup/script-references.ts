import jsTokens from 'js-tokens'
import type { Reference } from './reference'

/** Whether a text as a whole can be a path that ends in a file's name: no address of another site, nothing with blanks to be filled in. */
const path = /^(?!\/\/)[^\n\r\t:<>"'`\\^{}|*?#]{1,500}\.[a-z][a-z0-9]{1,11}(?:[?#][^\s{}]{0,500})?$/i

/** A path from the top to the home page of a folder, which is named by its folder alone. */
const folder = /^\/(?!\/)[^\n\r\t:<>"'`\\^{}|*?#]{1,500}\/(?:[?#][^\s{}]{0,500})?$/
/** A whole address, which may be one of the site's own. */
const address = /^https?:\/\/[^\s<>"'`\\^{}|]+$/i

/** Whether a text can be a path or an address that is written as a mere string, in a script, in data or as a value of something. */
export function isLikePath(text: string): boolean {
  // Asked of every value of every attribute, nearly all of which are neither.
  if (text.length > 1_000 || !/[./]/.test(text)) return false
  const trimmed = text.trim()
  return (
    path.test(trimmed) ||
    (trimmed.startsWith('/') ? folder.test(trimmed) : trimmed.includes('://') && address.test(trimmed))
  )
}

/**
 * Nothing in a text without one of these can be such a string: the end of a file's name or a folder's before that of a string,
 * a whole address.
 */
const mayHold = /(?:\.[a-z][a-z0-9]{1,11}|[^\s"'`]\/)(?:[?#][^"'`\n]{0,500})?["'`]|["'`]\s{0,9}https?:\/\//i

/** A string of a script or of data. */
interface StringIn {
  readonly start: number
  readonly end: number
  readonly text: string
  /** What stands before it: the last words and signs, the nearest first. */
  readonly before: readonly string[]
  /** What stands behind it, the nearest first. */
  readonly after: readonly string[]
}

const escaped = /\\(?:u\{([0-9a-f]{1,6})\}|u([0-9a-f]{4})|x([0-9a-f]{2})|\r\n|([^]))/gi
const signs: Readonly<Record<string, string>> = {
  n: '\n',
  r: '\r',
  t: '\t',
  b: '\b',
  f: '\f',
  v: '\v',
  0: '\0',
  '\n': '',
}

/** What a string says (ECMAScript §12.9.4.2). */
const unescape = (text: string): string =>
  text.replace(escaped, (_, braced?: string, four?: string, two?: string, one?: string) => {
    const code = parseInt(braced ?? four ?? two ?? '', 16)
    if (!Number.isNaN(code)) return code <= 0x10ffff ? String.fromCodePoint(code) : ''
    return one === undefined ? '' : (signs[one] ?? one)
  })

/** Words and signs that are looked at on either side. */
const around = 6

/** The tokens of a script, as far as they can be told apart: a string of many megabytes is more than a pattern's stack holds. */
function* tokensOf(code: string) {
  try {
    yield* jsTokens(code)
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
  }
}

/** The strings of a script, also of one that is no script to the end. Linear in it; what it means is not looked at. */
function* stringsIn(code: string): Generator<StringIn> {
  const before: string[] = []
  /** Strings whose other side has not all been seen yet. */
  let waiting: (StringIn & { after: string[] })[] = []
  let at = 0
  for (const { type, value } of tokensOf(code)) {
    const start = at
    at += value.length
    if (/^(WhiteSpace|LineTerminatorSequence|\w+Comment)$/.test(type)) continue
    for (const one of waiting) one.after.push(value.slice(0, 40))
    while (waiting[0] && waiting[0].after.length >= around) yield waiting.shift()!
    if (type === 'StringLiteral' || type === 'NoSubstitutionTemplate') {
      const isClosed = value.length > 1 && value.endsWith(value[0]!)
      const text = value.slice(1, -1)
      if (isClosed && text.length <= 1_000)
        waiting.push({
          start: start + 1,
          end: at - 1,
          text: text.includes('\\') ? unescape(text) : text,
          before: [...before],
          after: [],
        })
    }
    before.unshift(value.slice(0, 40))
    if (before.length > around) before.pop()
  }
  yield* waiting
  waiting = []
}

/** What is asked of an address, and does not lead there. */
const asking =
  /^(endsWith|startsWith|includes|indexOf|lastIndexOf|match|search|split|replace|replaceAll|test|localeCompare|join)$/
/** What a string stands beside that is a piece of a longer one, or is only compared. */
const joinedTo = /^(\+|\+=|[=!]==?|case)$/

/** Whether a string is the address of another module (ECMAScript §16.2), in a form that names a file (HTML §8.1.6.2). */
function isSpecifier({ text, before }: StringIn): boolean {
  if (!/^\.{0,2}\//.test(text) || text.startsWith('//')) return false
  const [one, two] = before
  return one === 'from' || one === 'import' || (one === '(' && two === 'import')
}

/** Whether a string is an address that is understood from the script itself: `new URL('x', import.meta.url)`. */
const isOfScript = ({ before, after }: StringIn): boolean =>
  before[0] === '(' &&
  before[1] === 'URL' &&
  before[2] === 'new' &&
  after.slice(0, 6).join('') === ',import.meta.url'

function isPiece({ before, after }: StringIn): boolean {
  if (joinedTo.test(before[0] ?? '') || /^[=!]==?$/.test(after[0] ?? '')) return true
  return before[0] === '(' && before[2] === '.' && asking.test(before[1] ?? '')
}

/**
 * What a script refers to: modules and addresses that it names as such, and strings that read like the path of a file.
 * @param fromPage whether those are meant from the page that runs it: where it is a file of its own
 */
export function findScriptReferences(code: string, fromPage = false): Reference[] {
  if (!mayHold.test(code)) return []
  const found: Reference[] = []
  for (const one of stringsIn(code)) {
    const { start, end, text } = one
    const told = { start, end, href: text, syntax: 'script-string' as const }
    if (isSpecifier(one)) found.push({ ...told, holder: 'import' })
    else if (!isLikePath(text) || isPiece(one)) continue
    else if (isOfScript(one)) found.push({ ...told, holder: 'new URL()' })
    else found.push({ ...told, holder: 'script', ifThere: true, ...(fromPage && { fromPage }) })
  }
  return found
}

/** Members of a manifest whose values are addresses (Web Application Manifest §1, Appendix "Image Resource"). */
const addresses = /^(src|url|start_url|action)$/
/** Those that only look so: what tells an application from others for good, and what its addresses begin with. */
const noAddresses = /^(id|scope)$/

/**
 * What data in JSON refers to.
 * @param isManifest whether it is the manifest of an application, whose addresses are known for what they are
 */
export function findDataReferences(json: string, isManifest = false): Reference[] {
  const found: Reference[] = []
  for (const { start, end, text, before } of stringsIn(json)) {
    const told = { start, end, href: text, syntax: 'script-string' as const }
    const member = before[0] === ':' ? /^"(.*)"$/.exec(before[1] ?? '')?.[1] : undefined
    if (isManifest && member !== undefined && addresses.test(member)) found.push({ ...told, holder: member })
    else if (isManifest && member !== undefined && noAddresses.test(member)) continue
    else if (isLikePath(text)) found.push({ ...told, holder: 'data', ifThere: true })
  }
  return found
}
