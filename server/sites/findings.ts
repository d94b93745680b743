import { type Finding, findFindings } from '#core/findings'
import { contentsOfPages, type Site } from '#core/site'
import { getTexts, loadFacts, loadPixels, loadStyles, textFrom } from '#server/contents'
import { pool } from '#server/platform'
import { listPublicAddresses } from './rows/address-rows'

/** Findings sent to a window; whoever has more begins with these. */
const mostFindings = 20_000

/** What is wrong or risky in a site, and how much of it there is in all. */
export async function findingsOf(
  site: Site,
  signal: AbortSignal,
): Promise<{ findings: Finding[]; findingCount: number }> {
  const contents = contentsOfPages(site.pages.filter((page) => !page.trial))
  const factsOf = await loadFacts(pool(), contents)
  signal.throwIfAborted()
  const styles = site.files.filter(({ kind }) => kind === 'style').map(({ hash }) => hash)
  const pictures = site.files.filter(({ kind }) => kind === 'image').map(({ hash }) => hash)
  const [styleFactsOf, pixelsOf] = [await loadStyles(pool(), styles), await loadPixels(pool(), pictures)]
  const publicAddresses = await listPublicAddresses(pool(), site.id)
  const textOf = textFrom(await getTexts(pool(), site.templates.map((template) => template.source))) // prettier-ignore
  const findings = findFindings(site, { factsOf, textOf, styleFactsOf, pixelsOf, publicAddresses })
  return { findings: findings.slice(0, mostFindings), findingCount: findings.length }
}
