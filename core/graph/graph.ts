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

const shortList = 12
const nowhere = new Int32Array(0)

/** Pages by their places in reading order; those of a list or a template are shared by many pages. */
type Places = Int32Array

/** The pages that a text leads to, each once, as long as all of them stand where they did. */
const known = new WeakMap<
  readonly Reference[],
  { readonly plan: PlanToken; readonly from: string; readonly to: Places }
>()

/** A page among the others: what it leads to is kept by places, and told by ids when somebody asks. */
class Node implements GraphNode {
  constructor(
    private readonly ids: readonly string[],
    private readonly at: number,
    private readonly led: Places,
    private readonly leading: (at: number) => Places,
    readonly steps: number | null,
    readonly isListed: boolean,
  ) {}
  get id(): string {
    return this.ids[this.at]!
  }
  get to(): readonly string[] {
    return Array.from(this.led, (one) => this.ids[one]!)
  }
  get from(): readonly string[] {
    return Array.from(this.leading(this.at), (one) => this.ids[one]!)
  }
}

/** Turns links round, once somebody asks: for each page those that lead to it, in reading order. */
function turned(to: readonly Places[]): (at: number) => Places {
  let starts: Int32Array | null = null
  let all = new Int32Array(0)
  function turn(): Int32Array {
    const begins = new Int32Array(to.length + 1)
    for (const led of to) for (const one of led) begins[one + 1]! += 1
    for (let at = 0; at < to.length; at++) begins[at + 1]! += begins[at]!
    all = new Int32Array(begins[to.length]!)
    const next = begins.slice()
    for (const [at, led] of to.entries()) for (const one of led) all[next[one]!++] = at
    return begins
  }
  return (at) => {
    starts ??= turn()
    return all.subarray(starts[at], starts[at + 1])
  }
}

/**
 * Every link from page to page: those of texts one by one, those of menus and templates as lists that pages
 * share, so that it grows with what is written and not with pages times entries.
 */
export function linkGraph(context: SiteContext, pages: readonly Page[], sources: GraphSources): LinkGraph {
  const { site, names } = context
  const { templates, factsOf, plan = null } = sources
  const homeFile = homeFileOf(site)
  const ids = pages.map(({ id }) => id)
  const placeOf = new Map(ids.map((id, at) => [id, at]))
  /** @param id of any page: a trial page has no place */
  const placesOf = (all: readonly string[]): Places => {
    if (all.length === 0) return nowhere
    const places: number[] = []
    // Most lists are short, and a set of each would cost more than what is in it.
    const met = all.length > shortList ? new Set<number>() : null
    for (const id of all) {
      const place = placeOf.get(id)
      if (place === undefined || (met ? met.has(place) : places.includes(place))) continue
      met?.add(place)
      places.push(place)
    }
    return Int32Array.from(places)
  }

  const ledBy = (references: readonly Reference[], page: Page): Places => {
    const path = names.pages.get(page.id)!.path
    const before = plan && known.get(references)
    if (before && before.plan === plan && before.from === path) return before.to
    const targets = resolveAll(references, path, names, homeFile, plan)
    const led: string[] = []
    for (const [at, target] of targets.entries())
      // What a page shows or quotes is not where it leads.
      if (target.kind === 'page' && target.id !== page.id && leads(references[at]!)) led.push(target.id)
    const to = placesOf(led)
    if (plan) known.set(references, { plan, from: path, to })
    return to
  }
  const to = pages.map((page) => {
    const all: Places[] = []
    for (const { hash } of textsOfPage(page)) {
      const { references } = factsOf(hash)
      if (references.length > 0) all.push(ledBy(references, page))
    }
    if (all.length < 2) return all[0] ?? nowhere
    return Int32Array.from(new Set(all.flatMap((one) => [...one])))
  })

  const shared = new Map<string, Places>()
  const once = (key: string, make: () => Places): Places => {
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
  const ledByTemplate = (template: CompiledTemplate, home: string): Places =>
    placesOf(
      template.references.flatMap((one) => {
        const target = leads(one) ? resolveReference(one.href, '', names, homeFile) : null
        return target?.kind === 'page' ? [target.id === site.homeId ? home : target.id] : []
      }),
    )
  const listsOf = (page: Page): readonly Places[] => {
    const templateId = templates.idOf(page)
    const template = templates.compiled(templateId)
    // A way home leads to the home page in the page's language, where the template keeps to that.
    const home = homeFor(context, page, template.listsLanguages).id
    const ofParts = template.generated.map((placed) => {
      const { part, attributes } = placed
      const keeps = keepsLanguage(placed)
      const make = () => placesOf(idsOf(part.entries(context, attributes, page, keeps)))
      const depends = part.dependsOn?.(context, attributes, page, keeps)
      return depends === undefined ? make() : once(`${keyOf(placed)} ${depends}`, make)
    })
    return [once(`template ${templateId} ${home}`, () => ledByTemplate(template, home)), ...ofParts]
  }
  const lists = pages.map(listsOf)

  const listed = new Uint8Array(pages.length)
  /** Lists that some page has shown, by the only page that shows them so far; null once there are two. */
  const shownBy = new Map<Places, number | null>()
  for (const [at, shown] of lists.entries())
    for (const list of shown) {
      const before = shownBy.get(list)
      if (before === null) continue
      shownBy.set(list, before === undefined ? at : null)
      // An entry of one's own leads nowhere: of a list that one page has alone it does not count.
      for (const one of list) if (one !== at || before !== undefined) listed[one] = 1
    }

  const steps = new Int32Array(pages.length).fill(-1)
  const done = new Set<Places>()
  const home = placeOf.get(site.homeId)
  let ring = home === undefined ? [] : [home]
  for (const at of ring) steps[at] = 0
  for (let distance = 1; ring.length > 0; distance++) {
    const next: number[] = []
    const reach = (places: Places) => {
      for (const at of places)
        if (steps[at]! < 0) {
          steps[at] = distance
          next.push(at)
        }
    }
    for (const at of ring) {
      reach(to[at]!)
      for (const list of lists[at]!) {
        if (done.has(list)) continue
        done.add(list)
        reach(list)
      }
    }
    ring = next
  }

  const leading = turned(to)
  const nodes = ids.map(
    (_, at) => new Node(ids, at, to[at]!, leading, steps[at]! < 0 ? null : steps[at]!, listed[at] === 1),
  )
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
