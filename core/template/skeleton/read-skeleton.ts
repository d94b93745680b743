import { type HtmlElement, parseHtml, type Range, walkHtml } from '#core/markup'

/** What the head of a page says, in the order in which a tidy one says it. */
export const headOrder = [
  'charset',
  'viewport',
  'title',
  'description',
  'address',
  'translations',
  'feed',
  'author',
  'icon',
  'styleSheets',
  'scripts',
] as const
export type HeadPart = (typeof headOrder)[number]

/** An element of a head that says one of these things, and what it says. */
export interface HeadElement extends Range {
  readonly part: HeadPart
  readonly value: string
  /** Of a script: when it runs. */
  readonly runs?: ScriptRuns
}

/** When a script runs (HTML §4.12.1): after the page is read, as it is met, or as a module. */
export type ScriptRuns = 'deferred' | 'at once' | 'module'

export interface ScriptUse {
  readonly href: string
  readonly runs: ScriptRuns
}

/** What a template's own source says about the page as a whole. */
export interface Skeleton {
  /** False for one that has no head of its own, since it fills the slots of another. */
  readonly isDocument: boolean
  readonly hasDoctype: boolean
  /** Whether its doctype is one after which browsers draw a page as those of the 1990s did (HTML §13.2.6.4.1). */
  readonly isQuirky: boolean
  /** The value of `lang`; null where none is stated. */
  readonly language: string | null
  readonly charset: string | null
  readonly viewport: string | null
  readonly title: string | null
  readonly description: string | null
  /** What it says is the page's own address (RFC 6596). */
  readonly address: string | null
  /** What it says is the address of the page in each language that it is in (HTML §4.6.7.1). */
  readonly translations: string | null
  /** The feed that it names. */
  readonly feed: string | null
  readonly author: string | null
  readonly icon: string | null
  readonly styleSheets: readonly string[]
  readonly scripts: readonly ScriptUse[]
}

/** A skeleton with where each thing is said. */
export interface PlacedSkeleton extends Skeleton {
  readonly elements: readonly HeadElement[]
  /** Where a head begins: after its start tag, or where one would stand. */
  readonly headStart: number
  /** Where its doctype ends; null without one. */
  readonly doctypeEnd: number | null
  /** The start tag of `html`; null where none is written. */
  readonly html: HtmlElement | null
}

const attr = (element: HtmlElement, name: string): string | undefined =>
  element.attrs.find((one) => one.name === name)?.value

/** What one element says about the page; null for any other element. */
function readElement(element: HtmlElement): Omit<HeadElement, 'start' | 'end'> | null {
  switch (element.tagName) {
    case 'title': {
      const [text] = element.childNodes
      return { part: 'title', value: text && 'value' in text ? text.value : '' }
    }
    case 'meta': {
      const charset = attr(element, 'charset')
      if (charset !== undefined) return { part: 'charset', value: charset }
      // The older way of saying it, which is as good (HTML §4.2.5.4).
      const isType = attr(element, 'http-equiv')?.toLowerCase() === 'content-type'
      const told = isType
        ? /charset\s*=\s*["']?([^\s"';]+)/i.exec(attr(element, 'content') ?? '')?.[1]
        : undefined
      if (told !== undefined) return { part: 'charset', value: told }
      const name = attr(element, 'name')?.toLowerCase()
      if (name === 'viewport' || name === 'description' || name === 'author')
        return { part: name, value: attr(element, 'content') ?? '' }
      return null
    }
    case 'link': {
      const rel = (attr(element, 'rel') ?? '').toLowerCase().split(/\s+/)
      const value = attr(element, 'href') ?? ''
      if (rel.includes('canonical')) return { part: 'address', value }
      if (rel.includes('alternate') && (attr(element, 'hreflang') ?? '').includes('{translation.language}'))
        return { part: 'translations', value }
      if (rel.includes('alternate') && /^application\/(?:atom|rss)\+xml$/i.test(attr(element, 'type') ?? ''))
        return { part: 'feed', value }
      if (rel.includes('icon')) return { part: 'icon', value }
      // One that is only offered is not what pages look like.
      if (rel.includes('stylesheet') && !rel.includes('alternate')) return { part: 'styleSheets', value }
      return null
    }
    case 'script': {
      const value = attr(element, 'src')
      if (value === undefined) return null
      const runs =
        attr(element, 'type') === 'module'
          ? 'module'
          : attr(element, 'defer') !== undefined
            ? 'deferred'
            : 'at once'
      return { part: 'scripts', value, runs }
    }
    default:
      return null
  }
}

/** Reads what a template's own source says about the page as a whole. Never fails. */
export function readSkeleton(source: string): PlacedSkeleton {
  const { root } = parseHtml(source, true)
  const elements: HeadElement[] = []
  let html: HtmlElement | null = null
  let headStart: number | null = null
  let doctypeEnd: number | null = null
  walkHtml(root, (node) => {
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (node.nodeName === '#documentType' && where) doctypeEnd = where.endOffset
    if (!('tagName' in node) || !node.sourceCodeLocation) return
    const { startOffset: start, endOffset: end, startTag } = node.sourceCodeLocation
    if (node.tagName === 'html') html = node
    if (node.tagName === 'head') headStart = startTag?.endOffset ?? null
    const read = readElement(node)
    if (read) elements.push({ ...read, start, end })
  })
  const first = (part: HeadPart) => elements.find((one) => one.part === part)?.value ?? null
  const htmlTag = (html as HtmlElement | null)?.sourceCodeLocation?.startTag
  return {
    isDocument: html !== null || headStart !== null || doctypeEnd !== null,
    hasDoctype: doctypeEnd !== null,
    isQuirky: doctypeEnd !== null && 'mode' in root && root.mode === 'quirks',
    doctypeEnd,
    language: (html && attr(html, 'lang')) ?? null,
    charset: first('charset'),
    viewport: first('viewport'),
    title: first('title'),
    description: first('description'),
    address: first('address'),
    translations: first('translations'),
    feed: first('feed'),
    author: first('author'),
    icon: first('icon'),
    styleSheets: elements.flatMap(({ part, value }) => (part === 'styleSheets' ? [value] : [])),
    scripts: elements.flatMap(({ part, value, runs }) =>
      part === 'scripts' ? [{ href: value, runs: runs! }] : [],
    ),
    elements,
    headStart: headStart ?? htmlTag?.endOffset ?? doctypeEnd ?? 0,
    html,
  }
}
