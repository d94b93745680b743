import { type HtmlFacts, readHtml } from '#core/markup'
import type { Hash } from '#core/site'
import { getTexts } from './blobs'
import { many, type Queryable } from './pool'

/** Facts depend on the hash alone, so what one request read serves all later ones. */
const memory = new Map<Hash, HtmlFacts>()
const memoryLimit = 100_000

/**
 * What parsing yields for each of these contents: from memory, from the table beside them, and
 * for those never read yet by reading them now.
 */
export async function loadFacts(db: Queryable, hashes: Iterable<Hash>): Promise<(hash: Hash) => HtmlFacts> {
  const facts = new Map<Hash, HtmlFacts>()
  const missing: Hash[] = []
  for (const hash of new Set(hashes)) {
    const known = memory.get(hash)
    if (known) facts.set(hash, known)
    else missing.push(hash)
  }
  if (missing.length > 0) {
    const rows = await many<{ hash: Hash; facts: HtmlFacts }>(
      db,
      'SELECT hash, facts FROM content_facts WHERE hash = ANY($1)',
      [missing],
    )
    for (const row of rows) facts.set(row.hash, row.facts)
    const unread = missing.filter((hash) => !facts.has(hash))
    const texts = await getTexts(db, unread)
    const read = [...texts].map(([hash, text]) => ({ hash, facts: readHtml(text) }))
    for (const one of read) facts.set(one.hash, one.facts)
    if (read.length > 0)
      await db.query(
        'INSERT INTO content_facts (hash, facts) SELECT hash, facts FROM jsonb_to_recordset($1) AS t(hash text, facts jsonb) ON CONFLICT DO NOTHING',
        [JSON.stringify(read)],
      )
    if (memory.size > memoryLimit) memory.clear()
    for (const hash of missing) memory.set(hash, facts.get(hash)!)
  }
  return (hash) => {
    const one = facts.get(hash)
    if (!one) throw new Error(`The facts of ${hash} were not loaded`)
    return one
  }
}
