import { checkOwnName } from '#core/naming'
import {
  cleanLabel,
  guessPlanForm,
  type MatchedLine,
  type Outline,
  type OutlineNode,
  type PlanForm,
  type PlanRefusal,
  planSite,
  readPlan,
  type SitePlan,
  walkOutline,
  withTranslations,
} from '#core/plan'
import { type Kit, startOfKit } from '#core/kit'
import { canBe, languageCalled } from '#core/language'
import type { Hash, Scheme, Site } from '#core/site'
import type { NewPage, PlannedPage } from '../new-page'
import { edit } from '../edit'
import { findRewrites, type Rewrite, type RewriteSources } from '../rewrites'
import { longestLabel } from '../edited'
import { planEdit } from '../kinds/plan/plan-edit'

/** More pages than this are not made at once. */
const mostPages = 50_000

/** What a new site is made from; ids and hashes come from outside, since the core has no randomness. */
export interface NewSite {
  readonly id: string
  readonly name: string
  readonly language: string
  readonly kit: Kit
  /** In the place of the kit's own. */
  readonly scheme?: Scheme
  readonly plan: SitePlan
  readonly newId: () => string
  readonly emptyContent: Hash
}

/** A site with the pages of a plan, and the scheme, templates and files of a kit. */
export function newSite({ plan, kit, name, scheme = kit.scheme, ...options }: NewSite): Site {
  const { newId, emptyContent } = options
  const start = startOfKit(
    { ...kit, scheme },
    {
      ...options,
      name: cleanLabel(name),
      homeLabel: cleanLabel(plan.home.label),
    },
  )
  const lines = walkOutline(plan.top).map((line) => ({ ...line, pageId: null }))
  const edited = edit(start, {
    kind: 'replacePlan',
    ...planEdit(start, { home: plan.home, top: plannedFrom(lines, newId) }),
    content: emptyContent,
  })
  if ('refusal' in edited) throw new RangeError(edited.refusal.message)
  return sectionsInTheirLanguage(edited.site)
}

/**
 * A site whose top sections that are called by a language, such as `Deutsch`, are in it, and are the home page in that; or
 * where one is called by the language of the site, that.
 */
function sectionsInTheirLanguage(site: Site): Site {
  const called = new Map<string, string>()
  let ofId = site.homeId
  const pages = site.pages.map((page) => {
    const language = page.parentId !== null || page.id === site.homeId ? null : languageCalled(page.label)
    if (language === null) return page
    if (canBe(language, site.language)) {
      ofId = page.id
      return page
    }
    if (!called.has(language)) called.set(language, page.id)
    return { ...page, language }
  })
  const pairs = [...called.values()].map((pageId) => ({ pageId, ofId }))
  return { ...site, pages: withTranslations({ ...site, pages }, pairs) }
}

/**
 * What has to be rewritten in the templates and style sheets of a new site: under a scheme other than its
 * kit's, or beside a page that wants its name, a file stands elsewhere than in the kit.
 */
export const rewritesOfNewSite = (site: Site, { scheme }: Kit, sources: RewriteSources): Rewrite[] =>
  findRewrites({ ...site, scheme, pages: site.pages.filter(({ id }) => id === site.homeId) }, site, sources)

/**
 * Reads the plan of a site that is not made yet; an empty one is a home page. Refused where it cannot
 * be read or holds more than can be made at once.
 * @param format guessed from the text where it is not known
 */
export function readNewPlan(
  { text, format = guessPlanForm(text) }: { readonly text: string; readonly format?: PlanForm },
  { name, ...site }: Pick<Site, 'name' | 'scheme' | 'language'>,
): SitePlan | { readonly refusal: PlanRefusal } {
  if (text.trim() === '') return planSite({ nodes: [], notes: [] }, name)
  const outline = readPlan(format, text)
  if ('refusal' in outline) return outline
  const refusal = refuseLabels(outline)
  if (refusal) return { refusal }
  const { length } = outline.lineNumbers
  if (length > mostPages) {
    const reason = `The plan has ${length.toLocaleString('en')} pages; a site is made with at most ${mostPages.toLocaleString('en')} at once.`
    return { refusal: { line: outline.lineNumbers[mostPages]!, reason } }
  }
  return correctOwnNames(planSite(outline, name), site)
}

/** Why a plan has a label that no page can have, if it does. */
export function refuseLabels(outline: Outline): PlanRefusal | null {
  const lines = walkOutline(outline.nodes)
  const index = lines.findIndex(({ node }) => node.label.length > longestLabel)
  if (index < 0) return null
  const { label } = lines[index]!.node
  return {
    line: outline.lineNumbers[index]!,
    reason: `This label has ${label.length} characters, and at most ${longestLabel} can be kept. It begins “${label.slice(0, 40)}…”.`,
  }
}

/** Matched lines of an edited plan as planned pages; a line that stands for no page gets a new id. */
export function plannedFrom(lines: readonly MatchedLine[], newId: () => string): PlannedPage[] {
  interface Draft extends PlannedPage {
    readonly children: Draft[]
  }
  const top: Draft[] = []
  const open: Draft[] = []
  for (const { node, depth, pageId } of lines) {
    const { label, trial, inMenus, details } = node
    const draft: Draft = {
      id: pageId ?? newId(),
      label,
      trial,
      inMenus,
      ...(details && { details }),
      children: [],
    }
    open.length = depth
    ;(open[depth - 1]?.children ?? top).push(draft)
    open.push(draft)
  }
  return top
}

/** Outline lines as pages to add, each with an id of its own. */
export function withIds(nodes: SitePlan['top'], newId: () => string): NewPage[] {
  return nodes.map((node) => ({
    id: newId(),
    label: node.label.slice(0, longestLabel),
    trial: node.trial,
    inMenus: node.inMenus,
    children: withIds(node.children, newId),
  }))
}

/**
 * The plan with own names that can be used: a plan from a file may ask for any. What is corrected is
 * told in its notes.
 */
export function correctOwnNames(
  plan: SitePlan,
  { scheme, language }: Pick<Site, 'scheme' | 'language'>,
): SitePlan {
  const isNamed = (node: OutlineNode) => node.details?.ownName !== undefined
  if (!isNamed(plan.home) && !walkOutline(plan.top).some(({ node }) => isNamed(node))) return plan
  const notes: string[] = []
  const correct = (node: OutlineNode): OutlineNode => {
    const children = node.children.map(correct)
    const name = node.details?.ownName
    const refusal = name === undefined ? null : checkOwnName(name, scheme, language)
    if (!refusal) return { ...node, children }
    notes.push(`The own name “${name}” of “${node.label}” is written ${refusal.proposal}. ${refusal.reason}`)
    return { ...node, children, details: { ...node.details, ownName: refusal.proposal } }
  }
  const home = correct(plan.home)
  const top = plan.top.map(correct)
  return { home, top, notes: [...plan.notes, ...notes] }
}
