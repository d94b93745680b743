import { textsOfPage } from '#core/site'
import { inPage, inSlot, type Rule } from '../../rule'

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
    const ofTemplate = template.facts.headings.filter(({ level }) => level === 1).length
    const own = textsOfPage(page).flatMap(({ slot, hash }) =>
      template.slots.some(({ name }) => name === slot)
        ? factsOf(hash).headings.flatMap((heading) => (heading.level === 1 ? [{ slot, heading }] : []))
        : [],
    )
    const [first, second] = own
    if (ofTemplate + own.length === 0)
      return { place: inPage(page), what: 'Neither this page nor its template has an <h1>.' }
    const extra = ofTemplate > 0 ? first : second
    if (!extra) return null
    const where = ofTemplate > 0 ? 'its template has one already' : 'it is the second of this page'
    return {
      place: inSlot(page, extra.slot, extra.heading),
      what: `“${extra.heading.text.slice(0, 60)}” is an <h1>, and ${where}.`,
    }
  },
}
