import {
  attributeOf,
  type HtmlElement,
  type HtmlNode,
  isElement,
  parseHtml,
  type Range,
  walkHtml,
} from '#core/markup'

/** A picture that stands in a text, as far as `pictureHtml` would write it anew. */
export interface FoundPicture extends Range {
  /** The whole picture, as its address is written there. */
  readonly address: string
  /** What it says; null where nothing is said of that. */
  readonly alt: string | null
  /** The width it is shown at, in CSS pixels; null where it has its own. */
  readonly width: number | null
  readonly isLazy: boolean
  readonly hasCopies: boolean
  readonly leadsToFull: boolean
  readonly caption: string
  readonly isFigure: boolean
  /** Whether a link can stand around it, and words below it: not where another does, and not within a paragraph. */
  readonly canLead: boolean
  readonly canHaveCaption: boolean
  /** What else its tag says, as it is. */
  readonly rest: readonly (readonly [name: string, value: string])[]
}

const written = new Set(['src', 'alt', 'srcset', 'sizes', 'width', 'height', 'loading'])
/** Elements that a figure can stand in. */
const holdsFigures = /^(?:article|aside|blockquote|body|dd|details|div|li|main|section|td|th)$/

/** Children that say something. */
const told = (element: HtmlElement): readonly HtmlNode[] =>
  element.childNodes.filter(
    (child) => !(child.nodeName === '#text' && 'value' in child && child.value.trim() === ''),
  )

const holderOf = (element: HtmlElement): HtmlElement | null =>
  element.parentNode && isElement(element.parentNode) ? element.parentNode : null

/** The largest of several, and whether they are copies by width; null where they are something else (HTML §4.8.4.2.1). */
function largestOf(srcset: string): string | null {
  const all = srcset.trim().split(/,\s+/).map((one) => /^(\S+)\s+(\d{1,6})w$/.exec(one.trim())) // prettier-ignore
  if (all.some((one) => one === null)) return null
  return all.reduce((best, one) => (Number(one![2]) > Number(best![2]) ? one : best))![1]!
}

/** Words below a picture, where they are nothing but words. */
function captionOf(figure: HtmlElement, shown: HtmlElement): string | null {
  const [first, second, ...more] = told(figure)
  if (figure.attrs.length > 0 || first !== shown || more.length > 0) return null
  if (!second) return ''
  if (!isElement(second) || second.tagName !== 'figcaption' || second.attrs.length > 0) return null
  const words = second.childNodes.map((child) =>
    'value' in child && child.nodeName === '#text' ? child.value : null,
  )
  return words.includes(null) ? null : words.join('').replace(/\s+/g, ' ').trim()
}

/** The picture whose tag a place of a text is within; null where there is none, or one that is written in a way of its own. */
export function pictureAt(text: string, place: number): FoundPicture | null {
  let image: HtmlElement | null = null
  walkHtml(parseHtml(text, false).root, (node) => {
    if (!isElement(node) || node.tagName !== 'img') return
    const tag = node.sourceCodeLocation?.startTag
    if (tag && tag.startOffset < place && place < tag.endOffset) image = node
  })
  return image && readPicture(image)
}

function readPicture(image: HtmlElement): FoundPicture | null {
  const srcset = attributeOf(image, 'srcset')
  const src = attributeOf(image, 'src')
  const address = srcset === undefined ? src : largestOf(srcset)
  if (!address) return null
  const link = holderOf(image)
  const isLinked = link?.tagName === 'a'
  const leadsToFull =
    isLinked && link.attrs.length === 1 && attributeOf(link, 'href') === address && told(link).length === 1
  let outer = leadsToFull ? link : image
  const figure = holderOf(outer)
  const caption = figure?.tagName === 'figure' ? captionOf(figure, outer) : null
  if (caption !== null) outer = figure!
  const around = holderOf(outer)
  const { startOffset: start, endOffset: end } = outer.sourceCodeLocation!
  const width = Number(attributeOf(image, 'width'))
  return {
    start,
    end,
    address,
    alt: attributeOf(image, 'alt') ?? null,
    width: Number.isInteger(width) && width > 0 ? width : null,
    isLazy: attributeOf(image, 'loading')?.toLowerCase() === 'lazy',
    hasCopies: srcset !== undefined,
    leadsToFull,
    caption: caption ?? '',
    isFigure: caption !== null,
    canLead: leadsToFull || !isLinked,
    canHaveCaption: caption !== null || around === null || holdsFigures.test(around.tagName),
    rest: image.attrs.filter(({ name }) => !written.has(name)).map(({ name, value }) => [name, value]),
  }
}
