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

type TextRule = Extract<Rule, { reads: 'text' }>
type ReferenceRule = Extract<Rule, { reads: 'references' }>

/** What some rules said of one text, without those that said nothing. */
type Said = readonly (readonly [Rule, readonly Found[]])[]

/** What rules said of texts, by the rules that were asked together and by what was read. */
interface SaidOfTexts {
  /** Of those that read nothing but a text. */
  readonly ofText: WeakMap<HtmlFacts, Said>
  /** Of those that read references too: as long as the plan is the same, and the text stands where it did. */
  readonly ofReferences: WeakMap<
    HtmlFacts,
    { readonly token: object; readonly from: string; readonly said: Said }
  >
}
const saidBy = new WeakMap<readonly Rule[], SaidOfTexts>()

function saying<R extends Rule>(rules: readonly R[], find: (rule: R) => Found[]): Said {
  return rules.flatMap((rule): [R, Found[]][] => {
    const found = find(rule)
    return found.length === 0 ? [] : [[rule, found]]
  })
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

/**
 * What was found in the texts of all pages by each rule that reads texts, told of the page that it stands in. Each text is
 * looked up once for all of them: most rules have nothing to say of most texts.
 */
function findInTexts(rules: readonly Rule[], texts: readonly PageText[], context: FindingContext) {
  let known = saidBy.get(rules)
  if (!known) saidBy.set(rules, (known = { ofText: new WeakMap(), ofReferences: new WeakMap() }))
  const { ofText, ofReferences } = known
  const { names, homeFile, planToken: token } = context
  const textRules = rules.filter((rule): rule is TextRule => rule.reads === 'text')
  const referenceRules = rules.filter((rule): rule is ReferenceRule => rule.reads === 'references')
  const all = new Map<Rule, Found[]>()
  const tell = (said: Said, { page, slot }: PageText) => {
    for (const [rule, found] of said) {
      let told = all.get(rule)
      if (!told) all.set(rule, (told = []))
      for (const one of found) told.push({ ...one, place: { ...one.place, id: page.id, ...slotPlace(slot) } })
    }
  }
  for (const text of texts) {
    const { facts, hash: was, from } = text
    let said = ofText.get(facts)
    if (!said) ofText.set(facts, (said = saying(textRules, (rule) => rule.find(facts, somewhere, was))))
    tell(said, text)
    let led = ofReferences.get(facts)
    if (led?.token !== token || led.from !== from) {
      const references = standingReferences(facts.references, from, names, homeFile)
      const where = { from, was, at: somewhere, links: facts.links }
      led = { token, from, said: saying(referenceRules, (rule) => rule.find(references, where, context)) }
      ofReferences.set(facts, led)
    }
    tell(led.said, text)
  }
  return all
}

/** @param inTexts what the rules that read texts found in those of pages */
function find(
  rule: Rule,
  context: FindingContext,
  inTexts: () => ReadonlyMap<Rule, readonly Found[]>,
): Found[] {
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
        ...(inTexts().get(rule) ?? []),
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
        ...(inTexts().get(rule) ?? []),
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
 * @param chosen the same list each time: what they said of texts is kept for it
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
  let known: ReadonlyMap<Rule, readonly Found[]> | null = null
  const inTexts = () => (known ??= findInTexts(chosen, textsIn(context), context))
  return chosen.flatMap((rule) => {
    const seen = new Map<string, number>()
    return find(rule, context, inTexts).map(({ mark = '', mends = [], ...found }): Finding => {
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
