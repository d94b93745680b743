import { readHtml } from '#core/markup'

/** What a text's first heading says; '' without one. Fetched apart: it brings the parser. */
export const firstHeading = (text: string): string => readHtml(text).headings[0]?.text ?? ''
