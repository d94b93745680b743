import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import { type Hash, mainSlot, type Site, type Template, textsOfPage, type TextOf } from '#core/site'
import { type CompiledTemplate, compileTemplate, contextOf, homeFileOf, SiteTemplates } from '#core/template'
import type { HtmlFacts } from '#core/markup'
import { type Finding, type FindingContext, type Found, inTemplate, type PlaceIn, type Rule } from './rule'
import { advice, checks } from './rules'

export interface FindingSources {
  /** The text of a template. */
  readonly textOf: TextOf
  readonly factsOf: (hash: Hash) => HtmlFacts
}

/** What rules read beside the plan. */
interface Read {
  readonly factsOf: (hash: Hash) => HtmlFacts
  readonly compiled: (template: Template) => CompiledTemplate
  readonly templates: SiteTemplates | null
}

/** What rules that read nothing but a text said of it, by rule and by what was read. */
const ofText = new WeakMap<Rule, WeakMap<object, Found[]>>()

function findInText(rule: Extract<Rule, { reads: 'text' }>, facts: HtmlFacts, was: Hash): Found[] {
  const known = ofText.get(rule) ?? new WeakMap<object, Found[]>()
  ofText.set(rule, known)
  let found = known.get(facts)
  // Whose text it is is filled in afterwards: several pages may have one.
  if (!found)
    known.set(facts, (found = rule.find(facts, (line) => ({ kind: 'page', id: '', ...placeIn(line) }), was)))
  return found
}
let latestPlan = { text: '', token: {} }

/** The same object as long as all that references can lead to stands where it did, under the names it had. */
function planToken({ tree, names, site, homeFile }: FindingContext): object {
  const pages = tree.places.map(
    ({ page, trial }) => `${page.id} ${trial} ${names.pages.get(page.id)!.path} ${page.label}`,
  )
  const files = site.files.map(({ id }) => `${id} ${names.files.get(id)}`)
  const text = [homeFile, ...pages, ...files].join('\n')
  if (text !== latestPlan.text) latestPlan = { text, token: {} }
  return latestPlan.token
}
const tokens = new WeakMap<FindingContext, object>()

/** What rules said of the references of a text, by rule and text, as long as the plan is the same. */
const ofReferences = new WeakMap<
  Rule,
  WeakMap<object, { readonly token: object; readonly from: string; readonly found: Found[] }>
>()

function findInReferences(
  rule: Extract<Rule, { reads: 'references' }>,
  facts: HtmlFacts,
  from: string,
  was: Hash,
  context: FindingContext,
): Found[] {
  let token = tokens.get(context)
  if (!token) tokens.set(context, (token = planToken(context)))
  const known = ofReferences.get(rule) ?? new WeakMap()
  ofReferences.set(rule, known)
  const before = known.get(facts)
  if (before?.token === token && before.from === from) return before.found
  // Whose text it is is filled in afterwards: several pages may have one.
  const at: PlaceIn = (line) => ({ kind: 'page', id: '', ...placeIn(line) })
  const found = rule.find(facts.references, { from, was, at }, context)
  known.set(facts, { token, from, found })
  return found
}

/** Told where it is not the slot that every page is written in. */
const slotPlace = (slot: string) => (slot === mainSlot ? {} : { slot })
const placeIn = (line?: { readonly line: number; readonly column: number }) =>
  line && { line: line.line, column: line.column }

function find(rule: Rule, context: FindingContext): Found[] {
  const { site, pages, names, factsOf } = context
  switch (rule.reads) {
    case 'site':
      return rule.find(context)
    case 'page':
      return pages.flatMap((page) => rule.find(page, context) ?? [])
    case 'text':
      return [
        ...site.templates.flatMap((template) => {
          const { bases, tags, notes } = context.compiled(template)
          return rule.find(
            { bases, errors: [], tags, notes },
            (line) => inTemplate(template, line),
            template.source,
          )
        }),
        ...pages.flatMap((page) =>
          textsOfPage(page).flatMap(({ slot, hash }) =>
            findInText(rule, factsOf(hash), hash).map((found) => ({
              ...found,
              place: { ...found.place, id: page.id, ...slotPlace(slot) },
            })),
          ),
        ),
      ]
    case 'references':
      return [
        ...site.templates.flatMap((template) =>
          rule.find(
            context.compiled(template).references,
            { from: '', was: template.source, at: (line) => inTemplate(template, line) },
            context,
          ),
        ),
        ...pages.flatMap((page) =>
          textsOfPage(page).flatMap(({ slot, hash }) =>
            findInReferences(rule, factsOf(hash), names.pages.get(page.id)!.path, hash, context).map(
              (found) => ({ ...found, place: { ...found.place, id: page.id, ...slotPlace(slot) } }),
            ),
          ),
        ),
      ]
  }
}

const nothingRead: Read = {
  templates: null,
  factsOf: () => ({
    references: [],
    errors: [],
    errorCount: 0,
    fixed: [],
    bases: [],
    ids: [],
    headings: [],
    tags: [],
    notes: [],
  }),
  compiled: () => ({
    parts: [],
    references: [],
    bases: [],
    unknown: [],
    slots: [],
    outside: [],
    generated: [],
    tags: [],
    notes: [],
    unit: '',
  }),
}

/**
 * Everything that rules find in a site, rule by rule, each in reading order.
 * @param read nothing for rules that read the plan alone
 */
export function findBy(chosen: readonly Rule[], site: Site, read: Read = nothingRead): Finding[] {
  const tree = treeOf(site)
  const context: FindingContext = {
    ...contextOf(site),
    homeFile: homeFileOf(site),
    pages: realPlaces(tree).map(({ page }) => page),
    names: namesOf(site),
    ...read,
  }
  return chosen.flatMap((rule) => {
    const seen = new Map<string, number>()
    return find(rule, context).map(({ mark = '', mends = [], ...found }): Finding => {
      const key = [rule.id, found.place.id, found.place.slot, mark].filter(Boolean).join(' ')
      // The same thing twice in one text: the first and the second of them.
      const times = (seen.get(key) ?? 0) + 1
      seen.set(key, times)
      return { rule: rule.id, key: times === 1 ? key : `${key} ${times}`, mends, ...found }
    })
  })
}

/** Everything wrong or risky in a site. */
export const findFindings = (site: Site, { factsOf, textOf }: FindingSources): Finding[] =>
  findBy(checks, site, {
    factsOf,
    compiled: (template) => compileTemplate(textOf(template.source)),
    templates: new SiteTemplates(site, textOf),
  })

/** What a practised author would remark on in a plan. */
export const adviseOnPlan = (site: Site): Finding[] => findBy(advice, site)

/** What a rule looks for, and why; by its id. */
export const ruleOf = (id: string): Pick<Rule, 'title' | 'why'> =>
  [...checks, ...advice].find((rule) => rule.id === id) ?? { title: id, why: '' }
