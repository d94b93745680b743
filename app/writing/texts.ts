/** Fetched apart: it brings the parsers of HTML and Markdown. */
export { cleanHtml, htmlOfMarkdown, isTextName, looksLikeMarkdown, pageOfFile } from '#core/texts'
