import { type PlanToken, resolveAll, resolveReference } from '#core/links'
import type { HtmlFacts, Reference } from '#core/markup'
import { type Hash, type Page, textsOfPage } from '#core/site'
import {
  type Entry,
  homeFileOf,
  homeFor,
  keepsLanguage,
  type SiteContext,
  type SiteTemplates,
  type CompiledTemplate,
} from '#core/template'

/** What a graph is made from beside the site. */
export interface GraphSources {
  readonly templates: SiteTemplates
  readonly factsOf: (hash: Hash) => HtmlFacts
  /** Lets what references lead to be kept from one time to the next (`resolveAll`). */
  readonly plan?: PlanToken | null
}

/** A page among the others. */
export interface GraphNode {
  readonly id: string
  /** Clicks from the home page, by any link; null where no way leads from there. */
  readonly steps: number | null
  /** Pages that its own texts lead to, each once, itself not. */
  readonly to: readonly string[]
  /** Pages whose own texts lead to it. */
  readonly from: readonly string[]
  /** Whether a menu, a list or a link of a template leads to it from another page. */
  readonly isListed: boolean
}

/** How the pages of a site lead to one another, in reading order. Trial pages are not among them. */
export interface LinkGraph {
  readonly nodes: readonly GraphNode[]
  readonly byId: ReadonlyMap<string, GraphNode>
}

/** Pages that a list or a template leads to; many pages share one such list. */
type Shared = readonly string[]

/** The pages that a text leads to, each once, as long as all of them stand where they did. */
const known = new WeakMap<
  readonly Reference[],
  { readonly plan: PlanToken; readonly from: string; readonly to: readonly string[] }
>()

/**
 * Every link from page to page: those of texts one by one, those of menus and templates as lists that pages
 * share, so that it grows with what is written and not with pages times entries.
 */
export function linkGraph(context: SiteContext, pages: readonly Page[], sources: GraphSources): LinkGraph {
  const { site, names } = context
  const { templates, factsOf, plan = null } = sources
  const homeFile = homeFileOf(site)
  const isReal = new Set(pages.map(({ id }) => id))
  const pageAt = (href: string, from: string): string | null => {
    const target = resolveReference(href, from, names, homeFile)
    return target.kind === 'page' && isReal.has(target.id) ? target.id : null
  }

  const to = new Map<string, readonly string[]>()
  const from = new Map<string, string[]>(pages.map(({ id }) => [id, []]))
  const ledBy = (references: readonly Reference[], page: Page): readonly string[] => {
    const path = names.pages.get(page.id)!.path
    const before = plan && known.get(references)
    if (before && before.plan === plan && before.from === path) return before.to
    const targets = resolveAll(references, path, names, homeFile, plan)
    const led = new Set<string>()
    for (const [at, target] of targets.entries())
      // What a page shows or quotes is not where it leads.
      if (target.kind === 'page' && target.id !== page.id && isReal.has(target.id) && leads(references[at]!))
        led.add(target.id)
    const to = [...led]
    if (plan) known.set(references, { plan, from: path, to })
    return to
  }
  for (const page of pages) {
    const all = textsOfPage(page).flatMap(({ hash }) => {
      const { references } = factsOf(hash)
      return references.length === 0 ? [] : [ledBy(references, page)]
    })
    const real = all.length === 1 ? all[0]! : [...new Set(all.flat())]
    to.set(page.id, real)
    for (const id of real) from.get(id)!.push(page.id)
  }

  const shared = new Map<string, Shared>()
  const once = (key: string, make: () => Shared): Shared => {
    let known = shared.get(key)
    if (!known) shared.set(key, (known = make()))
    return known
  }
  /** What tells a part from others that list something else. */
  const partKeys = new Map<object, string>()
  const keyOf = (placed: CompiledTemplate['generated'][number]) => {
    let key = partKeys.get(placed)
    if (key === undefined)
      partKeys.set(placed, (key = JSON.stringify([placed.part.name, placed.attributes, placed.within])))
    return key
  }
  const listsOf = (page: Page): readonly Shared[] => {
    const templateId = templates.idOf(page)
    const template = templates.compiled(templateId)
    // A way home leads to the home page in the page's language, where the template keeps to that.
    const home = homeFor(context, page, template.listsLanguages).id
    const ofTemplate = once(`template ${templateId} ${home}`, () => {
      const ids = template.references.map((one) => (leads(one) ? pageAt(one.href, '') : null))
      return [...new Set(ids.filter((id) => id !== null).map((id) => (id === site.homeId ? home : id)))]
    })
    const ofParts = template.generated.map((placed) => {
      const { part, attributes } = placed
      const keeps = keepsLanguage(placed)
      const make = () => idsOf(part.entries(context, attributes, page, keeps))
      const depends = part.dependsOn?.(context, attributes, page, keeps)
      return depends === undefined ? make() : once(`${keyOf(placed)} ${depends}`, make)
    })
    return [ofTemplate, ...ofParts]
  }
  const lists = new Map(pages.map((page) => [page.id, listsOf(page)]))

  const listed = new Set<string>()
  /** Lists that some page has shown, by the only page that shows them so far; null once there are two. */
  const shownBy = new Map<Shared, string | null>()
  for (const page of pages)
    for (const list of lists.get(page.id)!) {
      const before = shownBy.get(list)
      if (before === null) continue
      shownBy.set(list, before === undefined ? page.id : null)
      // An entry of one's own leads nowhere: of a list that one page has alone it does not count.
      for (const id of list) if (id !== page.id || before !== undefined) listed.add(id)
    }

  const steps = new Map<string, number>([[site.homeId, 0]])
  const done = new Set<Shared>()
  let ring = isReal.has(site.homeId) ? [site.homeId] : []
  for (let distance = 1; ring.length > 0; distance++) {
    const next: string[] = []
    const reach = (id: string) => {
      if (steps.has(id) || !isReal.has(id)) return
      steps.set(id, distance)
      next.push(id)
    }
    for (const id of ring) {
      to.get(id)!.forEach(reach)
      for (const list of lists.get(id)!) {
        // All that it leads to is reached already.
        if (done.has(list)) continue
        done.add(list)
        list.forEach(reach)
      }
    }
    ring = next
  }

  const nodes = pages.map(({ id }): GraphNode => ({
    id,
    steps: steps.get(id) ?? null,
    to: to.get(id)!,
    from: from.get(id)!,
    isListed: listed.has(id),
  }))
  return { nodes, byId: new Map(nodes.map((node) => [node.id, node])) }
}

/**
 * Whether a visitor is led on by what holds a reference to a page: a link, a frame, a script that goes there, but not what
 * says where a quotation is from, what a page is about, or what other sites are told of it.
 */
const leads = ({ holder, ifThere }: Reference) =>
  holder === 'a href' ||
  (!/^(blockquote|q|del|ins|link|img|frame longdesc|iframe longdesc)\b/.test(holder) &&
    !(ifThere && holder === 'meta content'))

function idsOf(entries: readonly Entry[], ids: string[] = []): string[] {
  for (const { page, below } of entries) {
    ids.push(page.id)
    if (below.length > 0) idsOf(below, ids)
  }
  return ids
}
