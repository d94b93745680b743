import type { Page, Site, Template, TextOf } from '#core/site'
import { compileTemplate } from './compile'
import type { CompiledTemplate } from './compiled'
import { templateChoices } from './choices'
import { type Composed, composeTemplate } from './compose'

/** Used where a template cannot be made: the page's own text and nothing else. */
const bare = '<slot name="content"></slot>\n'

/** Of a site whose pages all have its own template. */
const noChoices: ReadonlyMap<string, string> = new Map()

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
    const saysOne = (page: Page) => page.templateId !== null || page.belowTemplateId !== null
    this.#choices = site.pages.some(saysOne) ? templateChoices(site) : noChoices
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
