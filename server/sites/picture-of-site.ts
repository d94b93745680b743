import { linkGraph } from '#core/graph'
import { realPlaces, treeOf } from '#core/plan'
import { contentsOfPages, type Site } from '#core/site'
import { contextOf, SiteTemplates } from '#core/template'
import { weighPages, type PageWeight } from '#core/weighing'
import { getTexts, loadFacts, loadFileFacts, textFrom } from '#server/contents'
import { pool } from '#server/platform'
import { filesOfSite } from './build'

async function read(site: Site, signal: AbortSignal) {
  const pages = realPlaces(treeOf(site)).map(({ page }) => page)
  const factsOf = await loadFacts(pool(), contentsOfPages(pages))
  signal.throwIfAborted()
  const sources = site.templates.map(({ source }) => source)
  const templates = new SiteTemplates(site, textFrom(await getTexts(pool(), sources)))
  return { pages, factsOf, templates, context: contextOf(site) }
}

/** How pages lead to one another, to be sent: pages by their places in reading order. */
export interface SentGraph {
  readonly nodes: readonly {
    readonly id: string
    readonly steps: number | null
    readonly isListed: boolean
    /** Places of the pages that its texts lead to. */
    readonly to: readonly number[]
  }[]
}

export async function graphOfSite(site: Site, signal: AbortSignal): Promise<SentGraph> {
  const { pages, factsOf, templates, context } = await read(site, signal)
  const { nodes } = linkGraph(context, pages, { templates, factsOf })
  const placeOf = new Map(nodes.map(({ id }, place) => [id, place]))
  return {
    nodes: nodes.map(({ id, steps, isListed, to }) => ({
      id,
      steps,
      isListed,
      to: to.map((one) => placeOf.get(one)!),
    })),
  }
}

/** What each page weighs with all that it needs, as it comes out; the heaviest first. */
export async function weightsOfSite(site: Site, signal: AbortSignal): Promise<PageWeight[]> {
  const { pages, factsOf, templates, context } = await read(site, signal)
  const fileFactsOf = await loadFileFacts(pool(), site.files)
  const { manifest } = await filesOfSite(pool(), site, signal)
  const sizes = new Map(manifest.map(({ path, sizeBytes }) => [path, sizeBytes]))
  const sourceBytesOf = ({ id }: { readonly id: string }) => sizes.get(context.names.pages.get(id)!.path) ?? 0
  const weights = weighPages(context, pages, { templates, factsOf, fileFactsOf, sourceBytesOf })
  return weights.sort((a, b) => b.total - a.total)
}

/** The files that each page needs before all of it is shown, by their paths. */
export async function needsOfPages(
  site: Site,
  signal: AbortSignal,
): Promise<ReadonlyMap<string, readonly string[]>> {
  const { pages, factsOf, templates, context } = await read(site, signal)
  const fileFactsOf = await loadFileFacts(pool(), site.files)
  const { names } = context
  return new Map(
    weighPages(context, pages, { templates, factsOf, fileFactsOf, sourceBytesOf: () => 0 }).map(
      ({ pageId, files }) => [names.pages.get(pageId)!.path, files.map((id) => names.files.get(id)!)],
    ),
  )
}
