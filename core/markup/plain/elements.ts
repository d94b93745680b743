import { html } from 'parse5'

/** What a start tag of an element does in a body (HTML §13.2.6.4.7), as far as it is read here. */
export type Kind =
  | 'void'
  | 'rule'
  | 'block'
  | 'heading'
  | 'item'
  | 'pre'
  | 'form'
  | 'formatting'
  | 'single'
  | 'scope'
  | 'table'
  | 'part'
  | 'select'
  | 'option'
  | 'ruby'
  | 'raw'
  | 'escapable'
  | 'drawing'
  | 'other'

const kinds = new Map<string, Kind>()
const define = (kind: Kind, names: string) => names.split(' ').forEach((name) => kinds.set(name, kind))

define('void', 'base basefont bgsound link meta br img wbr area embed keygen input param track source')
define('rule', 'hr')
define(
  'block',
  'p dl ol ul div dir nav main menu aside center figure footer header hgroup dialog details address article search section summary fieldset blockquote figcaption',
)
define('heading', 'h1 h2 h3 h4 h5 h6')
define('item', 'li dd dt')
define('pre', 'pre listing')
define('form', 'form')
define('formatting', 'i s b u em tt big code font small strike strong')
// One within another ends the first, or is not there.
define('single', 'a nobr button')
define('scope', 'applet object marquee')
define('table', 'table')
define('part', 'caption colgroup col tbody thead tfoot tr td th')
define('select', 'select')
define('option', 'option optgroup')
define('ruby', 'rt rp')
define('raw', 'script style iframe noembed noframes noscript')
define('escapable', 'title textarea')
define('drawing', 'svg')
// What is left to the whole parser.
define('other', 'html head body frameset frame template math plaintext image xmp rb rtc isindex')

/** Of an element that has no rules of its own, undefined. */
export const kindOf = (name: string): Kind | undefined => kinds.get(name)

/** Elements that stand in a head (HTML §13.2.6.4.4). */
export const ofHead: ReadonlySet<string> = new Set(
  'base basefont bgsound link meta title noscript noframes style script'.split(' '),
)

/** Elements that are ended by what ends another (HTML §13.2.6.3), but for those that nobody writes any more. */
export const implied: ReadonlySet<string> = new Set('dd dt li optgroup option p rp rt'.split(' '))

/** Of these, those that do not keep a tag from ending what is around them. */
export const impliedInText: ReadonlySet<string> = new Set('optgroup option rp rt'.split(' '))

/** Elements within which an item, and what is around it, is another's: all special ones but three (§13.2.6.4.7). */
export const boundsItems: ReadonlySet<string> = new Set(
  Object.values(html.TAG_NAMES).filter(
    (name) =>
      html.SPECIAL_ELEMENTS[html.NS.HTML].has(html.getTagID(name)) && !/^(?:address|div|p)$/.test(name),
  ),
)

/** Elements in which a paragraph that is open around them is not ended (HTML §13.2.4.2, button scope). */
export const boundsParagraphs: ReadonlySet<string> = new Set(
  'applet button caption html marquee object table td th'.split(' '),
)
