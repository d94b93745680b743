import { readAttributeText } from './attribute-text'
import { referencesIn } from './html-references'
import type { Reference } from './reference'
import { isLikePath } from './script-references'

/**
 * Elements whose text names something once and for all, even where it is an address: readers of a feed take another one for
 * something new (RFC 4287 §4.2.6; RSS 2.0, `guid`).
 */
const identities = /^(?:[\w.-]+:)?(?:id|guid|uuid)$/i
/** The address of a page in a list of a site's pages: an address and nothing else (sitemaps.org, `loc`). */
const listed = /^loc$/i

const attribute = /\s*([^\s=<>"'/]+)\s*=\s*(?:"([^"<]*)"|'([^'<]*)')/y
const startTag = /<([A-Za-z_][\w.:-]*)/y

/** Whether a text of a feed is a page of its own, as HTML. */
const isMarkup = (text: string) => /<[a-z]/i.test(text)

/**
 * What a document in XML refers to that is none of HTML, such as a feed or a sitemap: addresses and paths that are all of
 * an attribute or of an element's text, and those in HTML that an element holds as text. Reads what is no XML to its end as
 * far as it is some. Linear in its length.
 */
export function findXmlReferences(xml: string): Reference[] {
  const found: Reference[] = []
  let at = 0
  /** The element that began last and has no other in it so far. */
  let within: string | null = null
  /** Takes a stretch of text; `isData` where it stands in a CDATA section, and says what it is as it is written. */
  const take = (start: number, end: number, isData: boolean) => {
    if (within === null || identities.test(within) || end - start < 3) return
    const source = xml.slice(start, end)
    const { text, sourceAt } = isData
      ? { text: source, sourceAt: (place: number) => place }
      : readAttributeText(source)
    if (isMarkup(text)) {
      for (const one of referencesIn(text)) {
        const place = { start: start + sourceAt(one.start), end: start + sourceAt(one.end) }
        found.push({ ...one, ...place, ifThere: true, ...(!isData && { inText: true as const }) })
      }
      return
    }
    const href = text.trim()
    if (!isLikePath(href)) return
    const lead = text.length - text.trimStart().length
    found.push({
      start: start + sourceAt(lead),
      end: start + sourceAt(lead + href.length),
      href,
      syntax: isData ? 'plain' : 'xml',
      holder: within,
      ...(!listed.test(within) && { ifThere: true }),
    })
  }
  const takeAttributes = (holder: string) => {
    for (;;) {
      attribute.lastIndex = at
      const match = attribute.exec(xml)
      if (!match) return
      at = attribute.lastIndex
      const value = match[2] ?? match[3]!
      const { text, sourceAt } = readAttributeText(value)
      const href = text.trim()
      if (match[1]!.startsWith('xmlns') || !isLikePath(href)) continue
      const start = at - 1 - value.length
      const lead = text.length - text.trimStart().length
      found.push({
        start: start + sourceAt(lead),
        end: start + sourceAt(lead + href.length),
        href,
        syntax: 'xml',
        holder: `${holder} ${match[1]}`,
        ifThere: true,
      })
    }
  }
  while (at < xml.length) {
    if (xml.charCodeAt(at) !== lessThan) {
      const end = xml.indexOf('<', at)
      const stop = end < 0 ? xml.length : end
      take(at, stop, false)
      at = stop
      continue
    }
    const section = sections.find(([begin]) => xml.startsWith(begin, at))
    if (section) {
      const [begin, ending] = section
      const end = xml.indexOf(ending, at + begin.length)
      // What is not closed is the rest of it.
      if (end < 0) return found
      if (begin === cdata) take(at + begin.length, end, true)
      else if (xml.startsWith('<?xml-stylesheet', at)) {
        at += '<?xml-stylesheet'.length
        takeAttributes('xml-stylesheet')
      }
      at = end + ending.length
      continue
    }
    startTag.lastIndex = at
    const match = startTag.exec(xml)
    if (match) {
      within = match[1]!
      at = startTag.lastIndex
      takeAttributes(within)
    } else {
      within = null
      at += 1
    }
    const next = /[<>]/g
    next.lastIndex = at
    const stop = next.exec(xml)
    at = stop ? stop.index + (stop[0] === '>' ? 1 : 0) : xml.length
    if (match && xml[at - 2] === '/') within = null
  }
  return found
}

const lessThan = 60
const cdata = '<![CDATA['
/** What begins with a sign that is none of a tag, and how it ends (XML 1.0 §2.5 to §2.8). */
const sections: readonly (readonly [string, string])[] = [
  ['<!--', '-->'],
  [cdata, ']]>'],
  ['<?', '?>'],
]

/** The sitemaps that a `robots.txt` names (RFC 9309 §2.2.4), each on a line of its own. */
export function findRobotsReferences(text: string): Reference[] {
  return [...text.matchAll(/^([ \t]*sitemap[ \t]*:[ \t]*)([^\s#]+)/gim)].map(
    ({ index, 1: lead = '', 2: href = '' }) => {
      const start = index + lead.length
      return { start, end: start + href.length, href, syntax: 'plain', holder: 'Sitemap', ifThere: true }
    },
  )
}
