/** Fetched apart: it brings the parsers of HTML and Markdown. */
export {
  cleanHtml,
  decodeHtml,
  htmlOfMarkdown,
  htmlOfPlain,
  looksLikeMarkdown,
  pageOfFile,
  partOfPage,
  picturesElsewhere,
  showInstead,
  withPictures,
  plainTextIn,
} from '#core/texts'
