import type { BuildSources } from '#core/build'
import { type HtmlFacts, readToPlace } from '#core/markup'
import type { Hash, TextOf } from '#core/site'

/** Texts of which what was read is kept. */
const mostFacts = 100

/** What pages are made of that are made once, to be compared with what they were. */
export function sourcesOf(textOf: TextOf, year: number): BuildSources {
  const facts = new Map<Hash, HtmlFacts>()
  const factsOf = (hash: Hash): HtmlFacts => {
    // For building alone; what there is to tell of a text is read where it is stored.
    const known = facts.get(hash) ?? readToPlace(textOf(hash))
    // Templates are asked for again and again, a page's own text once or twice.
    if (facts.size >= mostFacts) facts.clear()
    facts.set(hash, known)
    return known
  }
  return { textOf, factsOf, year, isOnce: true }
}
