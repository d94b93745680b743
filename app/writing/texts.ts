/** Fetched apart: it brings the parsers of HTML and Markdown. */
export {
  cleanHtml,
  htmlOfMarkdown,
  htmlOfPlain,
  looksLikeMarkdown,
  pageOfFile,
  picturesElsewhere,
  showInstead,
  plainTextIn,
} from '#core/texts'
