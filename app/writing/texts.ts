/** Fetched apart: it brings the parsers of HTML and Markdown. */
export { cleanHtml, htmlOfMarkdown, looksLikeMarkdown, pageOfFile } from '#core/texts'
