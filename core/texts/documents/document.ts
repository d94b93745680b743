import { Problem } from '#core/problems'
import { cleanHtml } from '../clean-html'
import { pageOfHtml, type PageOfFile } from '../page-of-file'
import { isBinary, isOpenDocument } from './packed'
import { htmlOfRows } from '../tables'
import { isRichText } from './rich-tokens'
import { rowsOfSpreadsheet } from './spreadsheet'
import { formOf, type Found, type FoundPicture } from './found'

/** A picture that stood in a document. */
export interface DocumentPicture extends FoundPicture {
  /** Its media type. */
  readonly type: string
  /** How its file's name ends. */
  readonly extension: string
}

/** A page that a document becomes. */
export interface PageOfDocument extends PageOfFile {
  /** By number as `withPictures` asks for them. */
  readonly pictures: readonly DocumentPicture[]
  /** Pictures in forms that no browser shows, which were left out. */
  readonly leftOut: number
}

const pictureMark = (number: number): string => `data:image/x-of-document,${number}`
/** A picture in the text of such a page, before it has a place in the site. */
const marked = /<img\b[^>]*? src="data:image\/x-of-document,(\d+)"[^>]*>/g

/** The text of such a page with its pictures as they are written by their numbers. */
export const withPictures = (html: string, write: (number: number) => string): string =>
  html.replace(marked, (_, number: string) => write(Number(number)))

/**
 * The page that a document of a word processor becomes: its words as clean HTML with their headings, lists, tables, links and notes,
 * and its pictures. Of a spreadsheet the rows of its first sheet, as a table.
 * @throws Problem `not-a-document`, `document-locked`, `document-too-large`
 */
export async function pageOfDocument(name: string, bytes: Uint8Array): Promise<PageOfDocument> {
  const found = await readAny(bytes)
  const pictures: DocumentPicture[] = []
  let leftOut = 0
  const marks = found.pictures.map((picture) => {
    const form = formOf(picture.bytes)
    if (form) return pictureMark(pictures.push({ ...picture, ...form }) - 1)
    leftOut += 1
    return null
  })
  const html = found.html.replace(/(<img\b[^>]*?) src="(\d+)"/g, (_, start: string, number: string) => {
    const mark = marks[Number(number)]
    return mark ? `${start} src="${mark}"` : start
  })
  return { ...pageOfHtml(cleanHtml(withFigures(belowItsTitle(html))), name), pictures, leftOut }
}

/** A picture that stands by itself and the caption below it, or with it in one box, are a figure (HTML §4.4.12). */
const withFigures = (html: string): string =>
  html
    .replace(/<p>\s*(<img\b[^>]*>)\s*<\/p>\s*(<figcaption>.*?<\/figcaption>)/gs, '<figure>$1$2</figure>')
    .replace(
      /(?<!>)<figcaption>\s*(<img\b[^>]*>)(?:\s|<br>)*(.+?)<\/figcaption>/gs,
      '<figure>$1<figcaption>$2</figcaption></figure>',
    )

/** Below a title that is none of its headings, those begin with the first level most often: each goes a level down. */
function belowItsTitle(html: string): string {
  const [before, after] = html.split('<h1 class="title">', 2)
  if (after === undefined || /<h[1-6]/.test(before!)) return html
  const end = html.indexOf('</h1>', before!.length) + '</h1>'.length
  const rest = html.slice(end)
  if (!/<h1/.test(rest)) return html
  const lower = (_: string, slash: string, level: string) => `<${slash}h${Math.min(6, Number(level) + 1)}`
  return html.slice(0, end) + rest.replace(/<(\/?)h([1-6])(?=[ >])/g, lower)
}

/** What a document says as plain HTML: an `h1` of the class `title` where it has one, pictures by their number in `src`. @throws as `pageOfDocument` does */
export const htmlOfDocument = async (bytes: Uint8Array): Promise<string> => (await readAny(bytes)).html

/** Told by what is in it, not by its name. */
async function readAny(bytes: Uint8Array): Promise<Found> {
  try {
    if (isRichText(bytes)) return (await import('./rich-text')).readRichText(bytes)
    const rows = await rowsOfSpreadsheet(bytes)
    if (rows) return { html: htmlOfRows(rows), pictures: [] }
    if (isBinary(bytes)) return (await import('./binary')).readBinary(bytes)
    return isOpenDocument(bytes)
      ? (await import('./open-document')).readOpenDocument(bytes)
      : await (await import('./word')).readWord(bytes)
  } catch (error) {
    if (error instanceof Problem) throw error
    throw new Problem('not-a-document', null, { cause: error })
  }
}
