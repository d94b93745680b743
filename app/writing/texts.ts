/** Fetched apart: it brings the parsers of HTML and Markdown. */
export {
  cleanHtml,
  decodeHtml,
  fitInto,
  htmlOfMarkdown,
  htmlOfPlain,
  htmlOfRows,
  looksLikeMarkdown,
  pageOfFile,
  partOfPage,
  picturesElsewhere,
  showInstead,
  withPictures,
  plainTextIn,
  rowsInText,
} from '#core/texts'
