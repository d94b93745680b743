import { buildSite, type BuildSources } from '#core/build'
import { newPage } from '#core/change'
import { escapeText, leadAt, readHtml } from '#core/markup'
import { mainSlot, type Page, type Site, type Template } from '#core/site'
import { pageTitle } from '#core/template'
import { groupPages } from '../framing/frame'
import type { Group } from '../framing/group'
import type { FrameMark } from '../framing/frame-marks'
import { findParts } from '../framing/generated-of'
import {
  type BringingTools,
  type FoundTemplate,
  type Stored,
  storedSlots,
  liftPages,
  wholeText,
} from '../framing/lift-pages'
import { type Goals, withoutLead } from '../framing/lift-template'
import type { ReadPage } from '../reading/read-page'
import type { Titles } from '../titles'
import type { Understood } from '../understand'
import { contentIn, type Frame, frameOf } from './in-this-frame'

/** The site that pages join, and how. */
export interface Into {
  readonly site: Site
  /** The page that they come under; null for the top of the plan. */
  readonly parentId: string | null
  /** What becomes of pages and files that are there already. */
  readonly same: 'leave' | 'replace' | 'beside'
  /** Whether they keep the frame they share, or are put into the template of their place. */
  readonly frame: 'own' | 'site'
  readonly names: 'kept' | 'scheme'
  /** Whether menus that follow the plan become generated ones. */
  readonly generates: boolean
  /** Where their author moved the edges of slots. */
  readonly marks?: readonly FrameMark[]
}

/** Names for templates that join others: told apart from those that are there. */
function templateNames(site: Site, name: string): (nth: number | null) => string {
  const taken = new Set(site.templates.map((one) => one.name))
  return (nth) => {
    const stem = nth === null ? 'Whole pages' : `Template of ${name}`.slice(0, 90)
    let called = stem
    for (let at = 2; taken.has(called); at++) called = `${stem} ${at}`
    taken.add(called)
    return called
  }
}

/** What the template of a place shows there, read from a page made up for it, with another below it. */
function frameThere({ site, parentId }: Into, sources: BuildSources): Frame | null {
  const text = '<p>what it holds</p>'
  const probe = (id: string, under: string | null): Page => ({
    ...newPage(id, id, site.nextSeq, 'probe'),
    parentId: under,
    order: 'a0',
  })
  const pages = [...site.pages, probe('probe', parentId), probe('below', 'probe')]
  const probing: BuildSources = {
    ...sources,
    textOf: (hash) => (hash === 'probe' ? text : sources.textOf(hash)),
    factsOf: (hash) => (hash === 'probe' ? readHtml(text) : sources.factsOf(hash)),
  }
  return frameOf(buildSite({ ...site, pages }, probing).traceOf('probe'))
}

/** Pages that are about to be written for where they come. */
export interface Placing {
  readonly pages: readonly ReadPage[]
  /** The site with them in it, still empty. */
  readonly site: Site
  readonly into: Into
  readonly goals: Goals
  readonly pageById: ReadonlyMap<string, Page>
  readonly isAnew: ReadonlySet<string>
}

/** What each page holds, and the templates that come with them. */
export interface Written extends Pick<Understood, 'madeIn'> {
  readonly templates: readonly Template[]
  readonly found: readonly FoundTemplate[]
  readonly holds: ReadonlyMap<string, Stored & { readonly templateId: string | null }>
}

/** Pages with the frame that they share, as a template of theirs. */
export function inOwnFrame(
  { pages, site, into, goals, pageById }: Placing,
  titles: Titles,
  calledFrom: string,
  tools: BringingTools,
): Written {
  const nameOf = (id: string) => pageTitle(pageById.get(id)!)
  const findThose = (some: readonly ReadPage[]) => (into.generates ? findParts(some, site) : [])
  const groups: readonly Group[] = groupPages(pages, findThose, nameOf, into.marks)
  const literal = titles.pattern.replaceAll('{site}', escapeText(titles.siteName ?? ''))
  const isTheirs = site.titlePattern.replaceAll('{site}', escapeText(site.name)) === literal
  const titleText = isTheirs || /[{}]/.test(titles.siteName ?? '') ? '{title}' : literal
  const lifted = liftPages(groups, nameOf, goals, tools, templateNames(site, calledFrom), (group) =>
    group.pages.some(titles.follows) ? titleText : '{page}',
  )
  // A template that the site has is not made a second time.
  const known = new Map(site.templates.map((one) => [`${one.source} ${one.basedOn}`, one.id]))
  const idOf = (id: string) => {
    const { source, basedOn } = lifted.templates.find((one) => one.id === id)!
    return known.get(`${source} ${basedOn}`) ?? id
  }
  return {
    templates: lifted.templates.filter(({ id }) => idOf(id) === id),
    found: lifted.found,
    madeIn: lifted.madeIn,
    holds: new Map([...lifted.held].map(([id, one]) => [id, { ...one, templateId: idOf(one.templateId) }])),
  }
}

/** Pages in the template of the place where they come: what they hold, without what surrounded it. */
export function inThatFrame(
  { pages, into, goals, pageById, isAnew }: Placing,
  sources: BuildSources,
  put: BringingTools['put'],
): Written {
  const frame = frameThere(into, sources)
  const holds = new Map(
    pages.map((page) => {
      const row = pageById.get(page.id)!
      const range = contentIn(page.text, frame, (heading) => [pageTitle(row), row.label].includes(heading))
      const start = range.start + /^\s*/.exec(page.text.slice(range.start, range.end))![0].length
      const text = withoutLead(wholeText(page, goals, range), leadAt(page.text, start)).trim()
      const templateId = isAnew.has(page.id) ? row.templateId : null
      const stored = storedSlots(text === '' ? {} : { [mainSlot]: `${text}\n` }, put)
      return [page.id, { templateId, ...stored }] as const
    }),
  )
  return { templates: [], found: [], madeIn: new Map(), holds }
}
