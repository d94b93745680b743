import { generateNKeysBetween } from 'fractional-indexing'
import { checkOwnName } from '#core/naming'
import { cleanLabel, type OutlineNode, type SitePlan, walkOutline } from '#core/plan'
import { defaultScheme, type Hash, type Site } from '#core/site'
import { defaultTitlePattern } from '#core/template'
import type { NewPage } from './change'
import { edit, longestLabel } from './edit'

/** What a new site is made from; ids and hashes come from outside, since the core has no randomness. */
export interface NewSite {
  readonly id: string
  readonly name: string
  readonly language: string
  readonly plan: SitePlan
  readonly newId: () => string
  readonly emptyContent: Hash
  readonly template: Hash
  readonly style: { readonly hash: Hash; readonly sizeBytes: number }
}

/** A site with the pages of a plan, the default template and the starter style sheet. */
export function newSite(options: NewSite): Site {
  const { plan, newId, emptyContent } = options
  const home = {
    id: newId(),
    parentId: null,
    order: generateNKeysBetween(null, null, 1)[0]!,
    seq: 1,
    label: cleanLabel(plan.home.label).slice(0, longestLabel),
    ownName: null,
    keptName: null,
    title: null,
    description: null,
    trial: false,
    inMenus: true,
    dated: false,
    date: null,
    addresses: [],
    content: emptyContent,
  }
  const start: Site = {
    id: options.id,
    name: cleanLabel(options.name),
    language: options.language,
    titlePattern: defaultTitlePattern,
    homeId: home.id,
    scheme: defaultScheme,
    nextSeq: 3,
    pages: [home],
    files: [
      {
        id: newId(),
        kind: 'style',
        label: 'site.css',
        seq: 2,
        hash: options.style.hash,
        sizeBytes: options.style.sizeBytes,
      },
    ],
    templates: [{ id: newId(), name: 'Shared template', source: options.template }],
  }
  const pages = withIds(plan.top, newId)
  if (pages.length === 0) return start
  const edited = edit(start, {
    kind: 'addPages',
    parentId: null,
    after: home.id,
    pages,
    content: emptyContent,
  })
  if ('refusal' in edited) throw new RangeError(edited.refusal.message)
  return edited.site
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
