import { Marked } from 'marked'

const marked = new Marked({ gfm: true })

/** Markdown (CommonMark with tables) as HTML. What is HTML in it stays. */
export const htmlOfMarkdown = (markdown: string): string =>
  (marked.parse(markdown, { async: false }) as string).trim()

const signs = [/^#{1,6} \S/m, /^(?:[-*+]|\d{1,3}[.)]) \S/m, /^> \S/m, /\[[^\]\n]+\]\([^)\s]+\)/, /\*\*[^*\n]+\*\*/, /^```/m, /^\|.+\|\s*$/m] // prettier-ignore

/** Whether a text looks like Markdown: two of its signs, or a heading, and no HTML. */
export function looksLikeMarkdown(text: string): boolean {
  if (text.length > 1_000_000 || /<\/?[a-z][a-z0-9-]*(\s[^<>]*)?>/i.test(text)) return false
  return signs[0]!.test(text) || signs.filter((sign) => sign.test(text)).length >= 2
}
