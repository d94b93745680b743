import { type Finding, findFindings } from '#core/findings'
import type { Site } from '#core/site'
import { getTexts, loadFacts, textFrom } from '#server/contents'
import { pool } from '#server/platform'

/**
 * What is wrong or risky in a site. Lines are told for texts that something is wrong in: those are few,
 * and read in portions.
 */
export async function findingsOf(
  site: Site,
  signal: AbortSignal,
): Promise<{ findings: Finding[]; findingCount: number }> {
  const contents = site.pages.filter((page) => !page.trial).map((page) => page.content)
  const factsOf = await loadFacts(pool(), contents)
  const sources = await getTexts(
    pool(),
    site.templates.map((template) => template.source),
  )
  const templateOf = textFrom(sources)
  const missing = new Set<string>()
  const look = (textOf: (hash: string) => string) => findFindings(site, { factsOf, textOf })
  // Once without the texts of pages, to know which are asked for; then with those, some at a time.
  look((hash) => {
    if (sources.has(hash)) return templateOf(hash)
    missing.add(hash)
    return ''
  })
  const lines = new Map<string, string>()
  const wanted = [...missing]
  for (let at = 0; at < wanted.length; at += textsAtOnce) {
    signal.throwIfAborted()
    for (const [hash, text] of await getTexts(pool(), wanted.slice(at, at + textsAtOnce)))
      // Only where lines end matters for telling a line.
      lines.set(hash, text.replace(/[^\n]/g, ' '))
  }
  const findings = look((hash) => sources.get(hash) ?? lines.get(hash) ?? '')
  return { findings: findings.slice(0, mostFindings), findingCount: findings.length }
}

/** Texts read from the database at a time. */
const textsAtOnce = 100
/** Findings sent to a window; whoever has more begins with these. */
const mostFindings = 20_000
