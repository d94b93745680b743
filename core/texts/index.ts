/** Texts from elsewhere as HTML: pasted from other programs, Markdown, and files that become pages. */
export { cleanHtml } from './clean-html'
export { fitInto, type Fitted, readsHtmlAt } from './fit-into'
export { elementAround, type ElementEdits, type LineElement, type WordElement } from './element-around'
export { decodeHtml, type DecodedHtml } from './decode-html'
export { htmlOfMarkdown, looksLikeMarkdown } from './markdown'
export { htmlOfParagraphs, htmlOfPlain, paragraphsInText, type PlainText, plainTextIn } from './plain'
export { bodyRange, pageOfFile, type PageOfFile, partOfPage } from './page-of-file'
export { picturesElsewhere, showInstead } from './pictures-elsewhere'
export { mergeTexts } from './merge'
export { htmlOfRows, rowsInText } from './tables'
export {
  pageOfDocument,
  planInDocument,
  type DocumentPicture,
  type PageOfDocument,
  withPictures,
} from './documents'
