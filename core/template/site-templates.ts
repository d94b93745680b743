import { treeOf } from '#core/plan'
import type { Page, Site, Template, TextOf } from '#core/site'
import { type CompiledTemplate, compileTemplate } from './compile'
import { type Composed, composeTemplate } from './compose'

const choices = new WeakMap<readonly Page[], { of: Site; ids: ReadonlyMap<string, string> }>()

/**
 * The template each page is made with, by the page's id: its own, else what the nearest page above says for
 * those below it, else the site's. Computed once for each list of pages.
 */
export function templateChoices(site: Site): ReadonlyMap<string, string> {
  const known = choices.get(site.pages)
  if (known && known.of.templateId === site.templateId && known.of.homeId === site.homeId) return known.ids
  const ids = new Map<string, string>()
  /** What pages at each depth get when they say nothing. */
  const below: string[] = [site.templateId]
  for (const { page, depth } of treeOf(site).places) {
    const given = below[depth]!
    ids.set(page.id, page.templateId ?? given)
    below.length = depth + 1
    below.push(page.belowTemplateId ?? given)
  }
  choices.set(site.pages, { of: site, ids })
  return ids
}

/** What pages at one page's place get when they say nothing: what *as above* means there. */
export function inheritedTemplate(site: Site, page: Page): string {
  const { byId } = treeOf(site)
  for (let above = page.parentId; above !== null; above = byId.get(above)?.parentId ?? null) {
    const given = byId.get(above)?.belowTemplateId
    if (given) return given
  }
  return site.templateId
}

/** Used where a template cannot be made: the page's own text and nothing else. */
const bare = '<slot name="content"></slot>\n'

/** The templates of a site, put together and compiled when they are first asked for. */
export class SiteTemplates {
  readonly #byId: ReadonlyMap<string, Template>
  readonly #choices: ReadonlyMap<string, string>
  readonly #composed = new Map<string, Composed | null>()
  readonly #compiled = new Map<string, CompiledTemplate>()

  constructor(
    private readonly site: Site,
    private readonly textOf: TextOf,
  ) {
    this.#byId = new Map(site.templates.map((template) => [template.id, template]))
    this.#choices = templateChoices(site)
  }

  /** The id of the template a page is made with. */
  idOf(page: Page): string {
    return this.#choices.get(page.id) ?? this.site.templateId
  }

  /** Hashes of all that a template is made of, in one text: equal texts, equal templates. */
  sourcesOf(templateId: string): string {
    const sources: string[] = []
    let at: string | null = templateId
    // Ends by itself in a whole site; what is not whole must not hold anybody up.
    while (at !== null && sources.length <= this.#byId.size) {
      const template = this.#byId.get(at)
      sources.push(template?.source ?? '')
      at = template?.basedOn ?? null
    }
    return sources.join(' ')
  }

  /** A template with what it is based on; null where that is more than a template may be. */
  composed(templateId: string): Composed | null {
    let composed = this.#composed.get(templateId)
    if (composed === undefined) {
      const template = this.#byId.get(templateId)
      composed = template ? composeTemplate(template, this.#byId, this.textOf, this.site.output) : null
      this.#composed.set(templateId, composed)
    }
    return composed
  }

  compiled(templateId: string): CompiledTemplate {
    let compiled = this.#compiled.get(templateId)
    if (!compiled) {
      compiled = compileTemplate(this.composed(templateId)?.text ?? bare)
      this.#compiled.set(templateId, compiled)
    }
    return compiled
  }

  of(page: Page): CompiledTemplate {
    return this.compiled(this.idOf(page))
  }

  /** Templates that are asked for: those of pages, each once. */
  used(pages: readonly Page[]): string[] {
    return [...new Set(pages.map((page) => this.idOf(page)))]
  }
}
