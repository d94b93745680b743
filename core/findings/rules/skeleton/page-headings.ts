import type { Heading, HtmlFacts, TextEdit } from '#core/markup'
import { type Hash, textsOfPage } from '#core/site'
import { pageTitle } from '#core/template'
import { inPage, inSlot, type Mend, type Rule } from '../../rule'

/** A page without a heading of the first level, or with several (HTML §4.3.11). */
export const pageHeadings: Rule = {
  id: 'page-headings',
  grade: 'hinders',
  title: 'Pages without one heading of their own',
  why: 'The first heading tells a screen reader, and a search engine, what the page is about.',
  reads: 'page',
  find(page, { factsOf, templates }) {
    if (!templates) return null
    const template = templates.of(page)
    const ofTemplate = template.facts.headings.filter(({ level }) => level === 1)
    const own = textsOfPage(page).flatMap(({ slot, hash }) =>
      template.slots.some(({ name }) => name === slot)
        ? factsOf(hash).headings.flatMap((heading) => (heading.level === 1 ? [{ slot, hash, heading }] : []))
        : [],
    )
    const [first, second] = own
    if (ofTemplate.length + own.length === 0)
      return textsOfPage(page).some(({ hash }) => leadsOn(factsOf(hash)))
        ? null
        : { place: inPage(page), what: 'Neither this page nor its template has an <h1>.' }
    const extra = ofTemplate.length > 0 ? first : second
    if (!extra) return null
    const where = ofTemplate.length > 0 ? 'its template has one already' : 'it is the second of this page'
    const written = new Map([
      ['{page}', page.label],
      ['{title}', pageTitle(page)],
    ])
    const isSaid = ofTemplate.some(({ text }) => isSame(written.get(text) ?? text, extra.heading.text))
    return {
      place: inSlot(page, extra.slot, extra.heading),
      what: `“${extra.heading.text.slice(0, 60)}” is an <h1>, and ${where}.`,
      mends: mendsOf(extra.heading, factsOf(extra.hash).headings, extra.hash, isSaid),
    }
  },
}

/** Words that a page may say besides sending its visitors on. */
const mostWords = 40

/** Whether a text shows other pages in frames, or only sends on to one: nothing of its own needs a heading. */
const leadsOn = ({ references, wordCount }: HtmlFacts): boolean =>
  references.some(
    ({ holder, ifThere }) =>
      holder === 'frame src' || (holder === 'meta content' && !ifThere && wordCount <= mostWords),
  )

const isSame = (one: string, other: string) => one.trim().toLowerCase() === other.trim().toLowerCase()

/** Edits that write other levels into a heading's tags; none where it has no end tag. */
const atLevel = ({ start, endNameAt }: Heading, level: number): TextEdit[] =>
  endNameAt === null
    ? []
    : [start + 1, endNameAt].map((at) => ({ start: at, end: at + 2, text: `h${level}` }))

/**
 * @param all headings of the text that it stands in
 * @param isSaid whether the template's heading says the same: this one can go
 */
function mendsOf(extra: Heading, all: readonly Heading[], was: Hash, isSaid: boolean): Mend[] {
  const { start, end, endNameAt } = extra
  const mends: Mend[] = []
  if (isSaid)
    mends.push({
      words: 'Take it out, it is there already',
      edits: [{ start, end, text: '' }],
      was,
    })
  // A text that was written by itself has its chapters at the first level, and what is in them below.
  const areLower = all.length > 1 && all.every((one) => one.endNameAt !== null && one.level < 6)
  if (areLower)
    mends.push({
      words: 'Lower all headings by one level',
      edits: all.flatMap((one) => atLevel(one, one.level + 1)),
      was,
      ...(isSaid && { isOther: true }),
    })
  if (endNameAt !== null) mends.push({ words: 'Write <h2>', edits: atLevel(extra, 2), was, isOther: true })
  return mends
}
