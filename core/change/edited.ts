import { namesOf } from '#core/naming'
import { treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'

/** Why a change could not be made. */
export type Refusal =
  /** What it is about is no longer there. */
  | { readonly reason: 'gone'; readonly message: string }
  /** The field was changed since the author saw it; `now` is what it holds. */
  | { readonly reason: 'changed-elsewhere'; readonly message: string; readonly now: string | null }
  /** It makes no sense: a page under itself, an empty label, the home page removed. */
  | { readonly reason: 'invalid'; readonly message: string }

/** The site after a change, or why there is none. */
export type Edited = { readonly site: Site } | { readonly refusal: Refusal }
export type Refused = Extract<Edited, { refusal: Refusal }>

/** Longest label, in UTF-16 code units: more is no label but a text pasted into the wrong place. */
export const longestLabel = 500

export const refuse = (reason: 'gone' | 'invalid', message: string): Refused => ({
  refusal: { reason, message },
})
export const gone = (what: string) => refuse('gone', `${what} is no longer part of this site.`)
export const elsewhere = (what: string, now: string | null): Refused => ({
  refusal: {
    reason: 'changed-elsewhere',
    message: `${what} was changed in another window in the meantime. What you typed is kept here.`,
    now,
  },
})

/** Said where what was typed is no language. */
export const noLanguage =
  'No language is called that. Write its name, or its tag: de for German, pt-BR for the Portuguese of Brazil.'

/** Why a label, cleaned already, cannot be a page's; null when it can. */
export function labelRefusal(label: string): Refused | null {
  if (label === '') return refuse('invalid', 'A page needs a label.')
  if (label.length > longestLabel)
    return refuse('invalid', `“${label.slice(0, 40)}…” is longer than ${longestLabel} characters.`)
  return null
}

/** A page that is only just made; it has no place yet. */
export function newPage(id: string, label: string, seq: number, content: string): Page {
  return {
    id, label, seq, content, parentId: null, order: '', ownName: null, keptName: null, title: null,
    titleAlone: false, description: null, trial: false, inMenus: true, dated: false, date: null, language: null, translationSet: null, translatedFrom: null,
    addresses: [], templateId: null, belowTemplateId: null, slots: {},
  } // prettier-ignore
}

/** An address that is out in the world does not change with a label; it is held still until its author lets it go. */
export function keptOnRelabel(site: Site, page: Page): string | null {
  if (page.ownName !== null) return page.keptName
  return page.addresses.length > 0 && page.id !== site.homeId ? namesOf(site).pages.get(page.id)!.stem : null
}

/** The site with each of its pages as `update` makes it. */
export const updatePages = (site: Site, update: (page: Page) => Page): Edited => ({
  site: { ...site, pages: site.pages.map(update) },
})

/** The site with one of its pages as `update` makes it, or what it refuses. */
export function updatePage(site: Site, pageId: string, update: (page: Page) => Page | Refused): Edited {
  const page = treeOf(site).byId.get(pageId)
  if (!page) return gone('The page')
  const next = update(page)
  if ('refusal' in next) return next
  return { site: { ...site, pages: site.pages.map((one) => (one === page ? next : one)) } }
}
