/** HTML and CSS as text with positions: read it, find what it refers to, change only that. */
export { type Reference, showsPicture } from './reference'
export { findCssReferences, isTooNested } from './css'
export { findScriptReferences, isLikePath } from './script-references'
export {
  type FileFacts,
  type FileSyntax,
  fileSyntaxOf,
  mayRefer,
  readFile,
  referencesOfFile,
} from './file-references'
export { parseCss } from './css-syntax'
export { findStyleFaults, readStyle, type StyleFacts, type StyleFault } from './style-facts'
export { digestOf } from './digest'
export { applyEdits, type TextEdit } from './edits'
export { encodePath, encodeVariable, escapeAttribute, escapeSingleQuoted, escapeText } from './escape'
export { referencesIn, seenOnce } from './html-references'
export {
  attributeOf,
  attributePlace,
  attributeValueRange,
  type HtmlAttribute,
  type HtmlElement,
  type HtmlNode,
  isElement,
  walkHtml,
} from './tree'
export { type MarkupError, parseHtml, parsePlaces, parseTree, pieceOf } from './parse'
export { attributesSaid, fixedIn, placesIn, readHtml, readToPlace, saysUnlisted } from './html'
export type {
  Heading,
  HtmlFacts,
  Pieced,
  PlacedRange,
  PlacedReference,
  ReadLink,
  ReadPicture,
  SaidOfPage,
} from './html-facts'
export { type LinePlace, Lines } from './lines'
export type { ElementNote } from './notes'
export { type HeadCell, rowsOf, type TableHeads } from './table-heads'
export {
  commonLead,
  leadAt,
  indentEdits,
  indentUnit,
  type Lead,
  leadInUnits,
  rangesHold,
  type Range,
  trimmedRange,
} from './indent'
export { paragraphEdits } from './runs'
export { placeId } from './place-id'
export { writeReference } from './write-reference'
export { type OwnDocument, ownDocumentIn } from './own-document'
export { endedBy, endsHeading } from './ended-tags'
export { findTagFaults, type TagFault } from './tags'
