/** Fetched apart: it brings the parsers of HTML and Markdown. */
export {
  cleanHtml,
  decodeHtml,
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
