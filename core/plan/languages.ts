import type { Page, Site } from '#core/site'
import { treeOf } from './tree'

/** What language each page of a site is in. */
export interface Languages {
  /** Every one that a page is in, the site's own first even where no page is left in it. */
  readonly all: readonly string[]
  /** A page's own, else that of the nearest page above it that says one, else the site's (HTML §3.2.6.2). */
  of(page: Page): string
}

type Spoken = Pick<Site, 'pages' | 'homeId' | 'language'>

const known = new WeakMap<readonly Page[], { readonly site: Spoken; readonly languages: Languages }>()

/** The languages of a site; computed once for each list of pages. */
export function languagesOf(site: Spoken): Languages {
  const memo = known.get(site.pages)
  if (memo && memo.site.language === site.language && memo.site.homeId === site.homeId) return memo.languages
  const languages = workOut(site)
  known.set(site.pages, { site, languages })
  return languages
}

function workOut(site: Spoken): Languages {
  if (site.pages.every((page) => page.language === null))
    return { all: [site.language], of: () => site.language }
  const byId = new Map<string, string>()
  // Those above come first.
  for (const { page } of treeOf(site).places) {
    const place = page.parentId === null ? site.language : byId.get(page.parentId)
    byId.set(page.id, page.language ?? place ?? site.language)
  }
  return {
    all: [...new Set([site.language, ...byId.values()])],
    of: (page) => byId.get(page.id) ?? page.language ?? site.language,
  }
}
