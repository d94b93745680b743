import { type Finding, findFindings, findFollowed, isGrave } from '#core/findings'
import { contentsOfOriginals, contentsOfPages, type Site } from '#core/site'
import { getTexts, loadFacts, loadFileFacts, loadPixels, loadStyles, textFrom } from '#server/contents'
import { pool } from '#server/platform'
import { listPublicAddresses } from './rows/address-rows'
import { listFollowed } from './rows/followed-rows'

/** Findings sent to a window; whoever has more begins with these. */
const mostFindings = 20_000

/** What is wrong or risky in a site, with what was put aside; the gravest first. */
export async function findingsOf(site: Site, signal: AbortSignal): Promise<{ findings: Finding[] }> {
  const pages = site.pages.filter((page) => !page.trial)
  const factsOf = await loadFacts(pool(), [...contentsOfPages(pages), ...contentsOfOriginals(pages)])
  signal.throwIfAborted()
  const styles = site.files.filter(({ kind }) => kind === 'style').map(({ hash }) => hash)
  const pictures = site.files.filter(({ kind }) => kind === 'image').map(({ hash }) => hash)
  const [styleFactsOf, pixelsOf] = [await loadStyles(pool(), styles), await loadPixels(pool(), pictures)]
  const fileFactsOf = await loadFileFacts(pool(), site.files)
  const publicAddresses = await listPublicAddresses(pool(), site.id)
  const textOf = textFrom(await getTexts(pool(), site.templates.map((template) => template.source))) // prettier-ignore
  const sources = { factsOf, textOf, styleFactsOf, fileFactsOf, pixelsOf, publicAddresses }
  const followed = new Map((await listFollowed(pool(), site.id)).map((one) => [one.address, one]))
  const findings = [...findFindings(site, sources), ...findFollowed(site, sources, followed)]
  // Of very many, those that visitors notice come first.
  const inOrder = [...findings.filter(isGrave), ...findings.filter((one) => !isGrave(one))]
  return { findings: inOrder.slice(0, mostFindings) }
}
