import type { Languages, Tree } from '#core/plan'
import type { Page, Scheme, Site } from '#core/site'
import { datedLabel } from './dates'
import { cutLetters, cutName } from './label-name'
import { namersOf } from './label-namers'
import { isOwnPath } from './own-path'

/** What stands before a page's own name: its date in a dated section, its number in a numbered scheme. */
export interface Front {
  readonly date: string | null
  readonly number: string | null
  /** What the name is made from once the date is taken out. */
  readonly label: string
}

export function frontOf(
  site: Pick<Site, 'pages' | 'homeId' | 'scheme'>,
  tree: Tree,
  languages: Languages,
): (page: Page) => Front {
  const ordinals = new Map<string, string>()
  if (site.scheme.numbered) {
    const parents = new Set<string | null>(site.pages.map((page) => page.parentId))
    for (const parentId of parents) {
      // One with a path of its own stands elsewhere, and takes no number from those here.
      const siblings = tree
        .childrenOf(parentId)
        .filter((page) => page.id !== site.homeId && !page.trial && !isOwnPath(page.ownName))
      const digits = Math.max(2, String(siblings.length).length)
      siblings.forEach((page, index) => ordinals.set(page.id, String(index + 1).padStart(digits, '0')))
    }
  }
  return (page) => {
    const number = ordinals.get(page.id) ?? null
    const dated = datedLabel(tree, page, languages.of(page))
    return dated ? { ...dated, number } : { date: null, number, label: page.label }
  }
}

export function frontedName(
  { date, number, label }: Front,
  page: Page,
  scheme: Scheme,
  language: string,
): string {
  const nameOf = namersOf(scheme)(language)
  if (date === null && number === null) return nameOf(page.label).name
  const gap = scheme.gap || '-'
  // Written closely where it would not fit: 20250614.
  const shortDate = date !== null && date.length > scheme.longest ? date.replaceAll('-', '') : date
  const front = [number, shortDate].filter((part) => part !== null).join(gap)
  const named = nameOf(label)
  // A date alone is a name; "2025-06-page" would say less.
  const room = named.nameless && date !== null ? 0 : scheme.longest - front.length - gap.length
  const rest = room < 1 ? '' : cutName(named.name.split(gap), gap, room, language)
  return cutLetters(rest === '' ? front : front + gap + rest, Math.max(1, scheme.longest))
}
