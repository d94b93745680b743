import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import {
  type Hash,
  mainSlot,
  type Page,
  type Site,
  type SiteFile,
  textsOfPage,
  type TextOf,
} from '#core/site'
import { compileTemplate, contextOf, homeFileOf, SiteTemplates } from '#core/template'
import { type PlanToken, standingReferences } from '#core/links'
import type { FileFacts, HtmlFacts, StyleFacts } from '#core/markup'
import type { Pixels } from '#core/pictures'
import {
  type About,
  type Finding,
  type FindingContext,
  type Found,
  inFile,
  inTemplate,
  type PlaceIn,
  placeTold,
  type Rule,
} from './rule'
import { builtRules } from './built'
import { followedRules } from './outside'
import { advice, checks } from './rules'

export interface FindingSources {
  /** The text of a template. */
  readonly textOf: TextOf
  readonly factsOf: (hash: Hash) => HtmlFacts
  /** What reading a style sheet yields; without it they are not looked into. */
  readonly styleFactsOf?: (hash: Hash) => StyleFacts
  /** What a file of any kind refers to; without it they are not looked into. */
  readonly fileFactsOf?: (file: SiteFile) => FileFacts
  /** How large a picture is; without it none is known. */
  readonly pixelsOf?: (hash: Hash) => Pixels | null
  /** Addresses under which visitors see the site. */
  readonly publicAddresses?: readonly string[]
}

/** What rules read beside the plan. */
type Read = Pick<
  FindingContext,
  | 'factsOf'
  | 'compiled'
  | 'sourceOf'
  | 'templates'
  | 'styleFactsOf'
  | 'fileFactsOf'
  | 'pixelsOf'
  | 'publicAddresses'
>

/** What rules that read nothing but a text said of it, by rule and by what was read. */
const ofText = new WeakMap<Rule, WeakMap<object, Found[]>>()

function findInText(rule: Extract<Rule, { reads: 'text' }>, facts: HtmlFacts, was: Hash): Found[] {
  const known = ofText.get(rule) ?? new WeakMap<object, Found[]>()
  ofText.set(rule, known)
  let found = known.get(facts)
  if (!found) known.set(facts, (found = rule.find(facts, somewhere, was)))
  return found
}
let latestPlan = { text: '', token: {} }

function planToken({
  tree,
  names,
  site,
  homeFile,
  publicAddresses,
}: Pick<FindingContext, 'tree' | 'names' | 'site' | 'homeFile' | 'publicAddresses'>): PlanToken {
  const pages = tree.places.map(
    ({ page, trial }) =>
      `${page.id} ${trial} ${names.pages.get(page.id)!.path} ${page.ownName} ${page.label}`,
  )
  const files = site.files.map(({ id, label }) => `${id} ${names.files.get(id)} ${label}`)
  const text = [homeFile, site.publicAddress, ...publicAddresses, ...pages, ...files].join('\n')
  if (text !== latestPlan.text) latestPlan = { text, token: {} }
  return latestPlan.token
}

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
  const token = context.planToken
  const known = ofReferences.get(rule) ?? new WeakMap()
  ofReferences.set(rule, known)
  const before = known.get(facts)
  if (before?.token === token && before.from === from) return before.found
  const { names, homeFile } = context
  const references = standingReferences(facts.references, from, names, homeFile)
  const found = rule.find(references, { from, was, at: somewhere, links: facts.links }, context)
  known.set(facts, { token, from, found })
  return found
}

/** Told where it is not the slot that every page is written in. */
const slotPlace = (slot: string) => (slot === mainSlot ? {} : { slot })
/** A place in a text; whose text it is is filled in afterwards, since several pages may have one. */
const somewhere: PlaceIn = (told) => ({ kind: 'page', id: '', ...(told && placeTold(told)) })

/** A text of a page, read. */
interface PageText {
  readonly page: Page
  readonly slot: string
  readonly hash: Hash
  readonly facts: HtmlFacts
  /** The path it is understood from. */
  readonly from: string
}

const textsIn = ({ pages, names, factsOf }: FindingContext): PageText[] =>
  pages.flatMap((page) => {
    const from = names.pages.get(page.id)!.path
    return textsOfPage(page).map(({ slot, hash }) => ({ page, slot, hash, facts: factsOf(hash), from }))
  })

/** What was found in texts, each told of the page that it stands in. */
function findInTexts(texts: readonly PageText[], findIn: (text: PageText) => readonly Found[]): Found[] {
  const all: Found[] = []
  for (const text of texts)
    for (const found of findIn(text))
      all.push({ ...found, place: { ...found.place, id: text.page.id, ...slotPlace(text.slot) } })
  return all
}

/** @param texts those of all pages, read once for all rules that ask for them */
function find(rule: Rule, context: FindingContext, texts: () => readonly PageText[]): Found[] {
  const { site, pages, names, styleFactsOf } = context
  switch (rule.reads) {
    case 'site':
      return rule.find(context)
    case 'page':
      return pages.flatMap((page) => rule.find(page, context) ?? [])
    case 'text':
      return [
        ...site.templates.flatMap((template) => {
          // A template that fills the slots of another is no document, and its errors are told where it is written.
          const facts = { ...context.compiled(template).facts, errors: [] }
          return rule.find(facts, (told) => inTemplate(template, told), template.source)
        }),
        ...findInTexts(texts(), ({ facts, hash }) => findInText(rule, facts, hash)),
      ]
    case 'style':
      return site.files.flatMap((file) =>
        file.kind === 'style'
          ? rule.find(
              styleFactsOf(file.hash),
              { file, path: names.files.get(file.id)!, at: (told) => inFile(file, told) },
              context,
            )
          : [],
      )
    case 'references':
      return [
        ...site.templates.flatMap((template) =>
          rule.find(
            standingReferences(context.compiled(template).references, '', names, context.homeFile),
            {
              from: '',
              was: template.source,
              at: (told) => inTemplate(template, told),
              links: context.compiled(template).facts.links,
            },
            context,
          ),
        ),
        ...findInTexts(texts(), ({ facts, from, hash }) =>
          findInReferences(rule, facts, from, hash, context),
        ),
      ]
  }
}

/** For rules that read the plan alone: nothing that reads texts has to be loaded for them. */
const unread = (): never => {
  throw new Error('This rule reads more than it was given.')
}
const nothingRead: Read = {
  templates: null,
  factsOf: unread,
  sourceOf: unread,
  compiled: unread,
  styleFactsOf: () => ({ references: [], faults: [] }),
  fileFactsOf: () => ({ references: [] }),
  pixelsOf: () => null,
  publicAddresses: [],
}

/**
 * Everything that rules find in a site, rule by rule, each in reading order.
 * @param read nothing for rules that read the plan alone
 */
export function findBy(chosen: readonly Rule[], site: Site, read: Partial<Read> = {}): Finding[] {
  const tree = treeOf(site)
  const where = { ...contextOf(site), homeFile: homeFileOf(site), names: namesOf(site) }
  const context: FindingContext = {
    ...where,
    planToken: planToken({ publicAddresses: [], ...where, ...read }),
    pages: realPlaces(tree).map(({ page }) => page),
    ...nothingRead,
    ...read,
  }
  let known: readonly PageText[] | null = null
  const texts = () => (known ??= textsIn(context))
  return chosen.flatMap((rule) => {
    const seen = new Map<string, number>()
    return find(rule, context, texts).map(({ mark = '', mends = [], ...found }): Finding => {
      const key = [rule.id, found.place.id, found.place.slot, mark].filter(Boolean).join(' ')
      // The same thing twice in one text: the first and the second of them.
      const times = (seen.get(key) ?? 0) + 1
      seen.set(key, times)
      return { rule: rule.id, grade: rule.grade, key: times === 1 ? key : `${key} ${times}`, mends, ...found }
    })
  })
}

/** Everything wrong or risky in a site. */
export const findFindings = (site: Site, { factsOf, textOf, ...sources }: FindingSources): Finding[] =>
  findBy(checks, site, {
    ...sources,
    factsOf,
    sourceOf: (template) => textOf(template.source),
    compiled: (template) => compileTemplate(textOf(template.source)),
    templates: new SiteTemplates(site, textOf),
  })

/** What a practised author would remark on in a plan. */
export const adviseOnPlan = (site: Site): Finding[] => findBy(advice, site)

/** What a rule looks for, how grave it is and why it matters; by its id. */
const abouts = new Map<string, About>(
  [...checks, ...advice, ...followedRules, ...builtRules].map((rule) => [rule.id, rule]),
)
export const ruleOf = (id: string): Pick<About, 'title' | 'why' | 'grade'> =>
  abouts.get(id) ?? { title: id, why: '', grade: 'detail' }
