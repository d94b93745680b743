import { zipSync } from 'fflate'
import mammoth from 'mammoth'
import { type Found, type FoundPicture, numberOf } from './found'
import { type Parts, partsOf, textOf } from './packed'
import { readXml } from './xml'

/** What is read of Office Open XML (ECMA-376 Part 1, §11.3 and §15.2.14): its words and pictures, not its macros. */
const wanted = /^(\[Content_Types\]\.xml|_rels\/|word\/(?!embeddings\/|fonts\/|vba)|docProps\/core\.xml)/

/** Styles that every word processor names alike, whatever the language of its menus. */
const styles = [
  "p[style-name='Title'] => h1.title:fresh",
  "p[style-name='Quote'] => blockquote > p:fresh",
  "p[style-name='Quotations'] => blockquote > p:fresh",
  "p[style-name='Intense Quote'] => blockquote > p:fresh",
  "p[style-name='Block Text'] => blockquote > p:fresh",
  "p[style-name='HTML Preformatted'] => pre:separator('\\n')",
  "p[style-name='Preformatted Text'] => pre:separator('\\n')",
  "p[style-name='Source Code'] => pre:separator('\\n')",
  "r[style-name='HTML Code'] => code",
  "r[style-name='Source Text'] => code",
  "r[style-name='Verbatim Char'] => code",
  'b => strong',
  'i => em',
]

/** How deep a style can rest on others before it is taken to go round. */
const mostLevels = 20

/** A paragraph's style, as much as is needed of it. */
interface Style {
  readonly id: string
  name: string
  above: string | null
  /** Its level in the outline from 1 (§17.3.1.20); null for text. */
  level: number | null
}

/** Styles of an author's own that are headings or captions, by the outline or because they rest on one: as lines of a style map. */
function ownStyles(parts: Parts): string[] {
  const found = new Map<string, Style>()
  let style: Style | null = null
  readXml(textOf(parts, 'word/styles.xml'), {
    open(name, attributes) {
      const value = attributes['w:val'] ?? ''
      if (name === 'w:style')
        style =
          attributes['w:type'] === 'paragraph'
            ? { id: attributes['w:styleId'] ?? '', name: '', above: null, level: null }
            : null
      if (!style) return
      if (name === 'w:name') style.name = value
      if (name === 'w:basedOn') style.above = value
      if (name === 'w:outlineLvl') style.level = Number(value) + 1
      found.set(style.id, style)
    },
  })
  const asKnown = (one: Style | undefined, steps = 0): string | null => {
    if (!one || steps > mostLevels) return null
    const level = Number(/^heading ([1-6])$/i.exec(one.name)?.[1] ?? one.level)
    if (level >= 1 && level <= 6) return `h${level}:fresh`
    if (/^caption$/i.test(one.name)) return 'figcaption:fresh'
    return one.above === null ? null : asKnown(found.get(one.above), steps + 1)
  }
  return [...found.values()].flatMap((one) => {
    if (one.name === '' || /^heading \d$|^title$/i.test(one.name)) return []
    const known = asKnown(one)
    return known === null ? [] : [`p[style-name='${one.name.replace(/[\\']/g, '\\$&')}'] => ${known}`]
  })
}

interface Element {
  readonly type: string
  readonly value?: string
  readonly styleName?: string | null
  readonly href?: string | null
  readonly anchor?: string | null
  readonly children?: readonly Element[]
}

/** A list of contents leads to the headings; the numbers of their pages say nothing here. What leads nowhere is left out. */
function withoutPageNumbers(element: Element): Element[] {
  if (/^(toc|contents) (\d|heading)/i.test(element.styleName ?? '')) {
    const isLink = (one: Element): boolean => !!one.anchor || (one.children ?? []).some(isLink)
    return isLink(element) ? [untilLastTab(element)] : []
  }
  if (!element.children) return [element]
  return [{ ...element, children: element.children.flatMap(withoutPageNumbers) }]
}

function untilLastTab(element: Element): Element {
  let isPast = true
  const cut = (one: Element): Element[] => {
    if (one.type === 'tab') {
      isPast = false
      return []
    }
    if (!one.children) return isPast && one.type === 'text' && /^[\s\divxlc]*$/i.test(one.value ?? '') ? [] : [one]
    return [{ ...one, children: [...one.children].reverse().flatMap(cut).reverse() }]
  }
  return hasTab(element) ? cut(element)[0]! : element
} // prettier-ignore

const hasTab = (element: Element): boolean => element.type === 'tab' || (element.children ?? []).some(hasTab)

/** Words that a program adds to what it made up about a picture by itself. */
const byProgram =
  /\s*\n?\s*(Description automatically generated[^\n]*|AI-generated content may be incorrect\.?)\s*$/i

/** What a document in Office Open XML says. @throws Problem as `partsOf` does; whatever the library throws at broken ones */
export async function readWord(bytes: Uint8Array): Promise<Found> {
  const parts = partsOf(bytes, (path) => wanted.test(path))
  const packed = zipSync(Object.fromEntries(parts), { level: 0 })
  const pictures: FoundPicture[] = []
  const convertImage = mammoth.images.imgElement(async (image) => {
    const bytes = new Uint8Array(await image.readAsArrayBuffer())
    const { altText = '' } = image as { altText?: string }
    const alt = altText.replace(byProgram, '').trim() || null
    return { src: String(numberOf(pictures, { bytes, alt })) }
  })
  const { value } = await mammoth.convertToHtml(
    // Of these the library takes one in a browser and the other elsewhere.
    { arrayBuffer: packed.buffer, buffer: packed } as never,
    {
      convertImage,
      styleMap: [...styles, ...ownStyles(parts)],
      externalFileAccess: false,
      transformDocument: (document: Element) => withoutPageNumbers(document)[0],
    },
  )
  return { html: value, pictures }
}
