import { Marked, type Tokens } from 'marked'
import { escapeAttribute, placeId } from '#core/markup'

/** A heading's name as links in Markdown write it: programs differ in what they make of marks and gaps. */
const bare = (place: string) => placeId(place, []).replaceAll('-', '')

/** The places of the same text that links lead to, by their bare names. */
function placesIn(markdown: string): ReadonlyMap<string, string> {
  const places = new Map<string, string>()
  for (const [, one, other] of markdown.matchAll(/\]\(#([^\s)]+)|^ {0,3}\[[^\]\n]+\]:[ \t]*#(\S+)/gm)) {
    const place = one ?? other!
    try {
      places.set(bare(decodeURIComponent(place)), place)
    } catch {
      places.set(bare(place), place)
    }
  }
  return places
}

/** Markdown (CommonMark with tables) as HTML; a heading that a link of it leads to has an id. What is HTML in it stays. */
export function htmlOfMarkdown(markdown: string): string {
  const places = new Map(placesIn(markdown))
  const marked = new Marked({
    gfm: true,
    ...(places.size > 0 && {
      renderer: {
        heading({ tokens, depth, text }: Tokens.Heading) {
          const name = bare(text)
          const place = places.get(name)
          // Of two that are called the same, a link leads to the first.
          places.delete(name)
          const id = place === undefined ? '' : ` id="${escapeAttribute(place)}"`
          return `<h${depth}${id}>${this.parser.parseInline(tokens)}</h${depth}>\n`
        },
      },
    }),
  })
  return (marked.parse(markdown, { async: false }) as string).trim()
}

const signs = [/^#{1,6} \S/m, /^(?:[-*+]|\d{1,3}[.)]) \S/m, /^> \S/m, /\[[^\]\n]+\]\([^)\s]+\)/, /\*\*[^*\n]+\*\*/, /^```/m, /^\|.+\|\s*$/m] // prettier-ignore

/** Whether a text looks like Markdown: two of its signs, or a heading, and no HTML. */
export function looksLikeMarkdown(text: string): boolean {
  if (text.length > 1_000_000 || /<\/?[a-z][a-z0-9-]*(\s[^<>]*)?>/i.test(text)) return false
  return signs[0]!.test(text) || signs.filter((sign) => sign.test(text)).length >= 2
}
