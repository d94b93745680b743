import { datesOf, type Names, namesOf, type PageDates } from '#core/naming'
import { type Languages, languagesOf, type Translations, translationsOf, type Tree, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import { type Addressing, addressingOf, isShownAnywhere } from './addressing'

/** What generated parts are made from, and what was worked out of it. */
export interface SiteContext {
  readonly site: Site
  readonly tree: Tree
  readonly names: Names
  /** What each page is in. */
  readonly languages: Languages
  /** Which of them are one page in several languages. */
  readonly translations: Translations
  /** When they are of. */
  readonly dates: PageDates
  /** How references are written; null for the usual way. */
  readonly addressing: Addressing | null
  /** Stands for the names, for who keeps what follows from them and must not keep them. */
  readonly namesToken: object
  /** Parts made last, by all that can make two of them differ. */
  readonly made: BoundedTexts
  /** Pages that neighbours are found among, by parent and by whether they keep to a language, with their places. */
  readonly siblings: Map<string, { readonly list: readonly Page[]; readonly at: ReadonlyMap<string, number> }>
  /** The newest pages that a part lists of, by what they are the newest of. */
  readonly newest: Map<string, readonly Page[]>
  /** What was worked out once for all pages that share it. */
  readonly signatures: Map<string, string>
  readonly weights: Map<string, number>
  /** What the parts of a template weigh on a page, by its id. */
  readonly pageWeights: WeakMap<object, Map<string, number>>
  /** The pages above those that were asked for last. */
  latestAbove: { readonly parentId: string | null; readonly above: readonly Page[] } | null
  /** Each part as it was made last, where the next page may show it again. */
  readonly latestParts: Map<object, LatestPart>
}

/** A part with what pages have to share to show it again. */
export interface LatestPart {
  readonly kindred: string
  readonly above: readonly Page[]
  readonly isShared: boolean
  readonly html: string
}

/**
 * The same text in one piece. One that grew by `+=` is kept as a tree of its parts, and is walked again by everything
 * that copies it, until its letters are asked for.
 */
export function flat(text: string): string {
  text.charCodeAt(0)
  return text
}

/** Texts kept for a while, by what they were made from; when they grow too large together all are let go. */
export class BoundedTexts {
  readonly #texts = new Map<string, string>()
  #size = 0

  /** @param most UTF-16 code units of all texts together */
  constructor(private readonly most: number) {}

  get size(): number {
    return this.#size
  }

  get(key: string, make: () => string): string {
    const known = this.#texts.get(key)
    if (known !== undefined) return known
    const text = flat(make())
    if (this.#size + text.length > this.most) {
      this.#texts.clear()
      this.#size = 0
    }
    this.#texts.set(key, text)
    this.#size += text.length
    return text
  }
}

/** A folder a page would keep a menu a page: pages come by folder, so the latest are the ones asked for. */
const mostMenuText = 4_000_000

const tokens = new WeakMap<Names, object>()
function tokenOf(names: Names): object {
  let token = tokens.get(names)
  if (!token) tokens.set(names, (token = {}))
  return token
}

/** @param publicPath the folder that visitors see the site in, from `/` to `/`, where that is known */
export function contextOf(site: Site, publicPath: string | null = null): SiteContext {
  const names = namesOf(site)
  return {
    site,
    tree: treeOf(site),
    names,
    languages: languagesOf(site),
    translations: translationsOf(site),
    dates: datesOf(site),
    addressing: addressingOf(site, publicPath),
    namesToken: tokenOf(names),
    made: new BoundedTexts(mostMenuText),
    siblings: new Map(),
    newest: new Map(),
    signatures: new Map(),
    weights: new Map(),
    pageWeights: new WeakMap(),
    latestAbove: null,
    latestParts: new Map(),
  }
}

/**
 * Equal for pages that refer to others alike: of one folder, or for one that is shown anywhere itself, and of one
 * language, since links into another say so.
 */
export function kindredOf({ names, addressing, languages }: SiteContext, page: Page): string {
  const { path, folder } = names.pages.get(page.id)!
  const from = isShownAnywhere(addressing, path) ? `:${path}` : folder
  return languages.all.length > 1 ? `${languages.of(page)}:${from}` : from
}
