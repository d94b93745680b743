import type { FileKind, Scheme } from './scheme'

/** A SHA-256 in lower-case hexadecimal; names a text or a file by what is in it. */
export type Hash = string

/** The hash of the empty text: what a page holds before anything is written in it. */
export const emptyHash: Hash = 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855'

/** Largest text of one page, template or style sheet, in UTF-16 code units. */
export const longestText = 4_000_000

/** What the page that another is a translation of held when they said the same. */
export interface TranslatedFrom extends Pick<Page, 'content' | 'slots'> {
  /** The page that it is a translation of; one that is gone, or in no set with it any more, counts for nothing. */
  readonly ofId: string
}

/**
 * One page. Its file name, address, menus and links are computed, never stored here;
 * `ownName` and `keptName` are the only two overrides of a computed name.
 */
export interface Page {
  readonly id: string
  /** The page this one stands under; null at the top level. The home page is at the top level. */
  readonly parentId: string | null
  /** Place among the siblings: a fractional index, compared by code unit. */
  readonly order: string
  /** Age: pages are numbered as they are made, so the older of two has the smaller number. */
  readonly seq: number
  readonly label: string
  /**
   * The name its author gave it (no folder, no extension), or null to follow the scheme. One that begins with a slash is
   * a path from the top: `/news/regatta`, or `/about/` for the home file of a folder.
   */
  readonly ownName: string | null
  /** A computed name held still, because another page's change would otherwise have altered it. */
  readonly keptName: string | null
  /** What `{page}` stands for in the title; null means the label. */
  readonly title: string | null
  /** Whether that is the whole title, without what the site's pattern puts around it. */
  readonly titleAlone: boolean
  readonly description: string | null
  /** A trial page is for trying a design: never in a menu, a ZIP or a delivery. */
  readonly trial: boolean
  readonly inMenus: boolean
  /** True for a section whose pages carry a date at the front of their names. */
  readonly dated: boolean
  /** The date its author set (`2025`, `2025-06`, `2025-06-14`); null reads it from the label. */
  readonly date: string | null
  /**
   * BCP 47 tag of the language that it and the pages below it are in; null for that of its place, which at the top level
   * is the site's (`languagesOf`).
   */
  readonly language: string | null
  /** Pages of one set are one page in several languages (`translationsOf`); null for one that is in its language only. */
  readonly translationSet: string | null
  /** What its text is held against to tell whether the original was changed since (`originalOf`); null where nothing is known. */
  readonly translatedFrom: TranslatedFrom | null
  /**
   * Paths under which its destinations show it: addresses that are out in the world. Known from
   * deliveries, not typed, so a difference adds and takes away single ones and never fails to fit.
   */
  readonly addresses: readonly string[]
  /** The template it is made with; null for the one that pages here are made with (`templateChoices`). */
  readonly templateId: string | null
  /** The template that pages below it are made with; null for the one that this page's place has. */
  readonly belowTemplateId: string | null
  /** The HTML of the slot `content`, by hash. */
  readonly content: Hash
  /** The HTML of its other slots, by their names. What its template does not show is kept all the same. */
  readonly slots: Readonly<Record<string, Hash>>
}

/** The slot that a page is written in first, and that every template is expected to have. */
export const mainSlot = 'content'

/** What a page holds in a slot; the empty text where nothing was written. */
export const slotOf = (page: Pick<Page, 'content' | 'slots'>, slot: string): Hash =>
  slot === mainSlot ? page.content : (Object.hasOwn(page.slots, slot) && page.slots[slot]) || emptyHash

/** The page with something else in a slot; an empty one is not kept. */
export function withSlot(page: Page, slot: string, content: Hash): Page {
  if (slot === mainSlot) return { ...page, content }
  const { [slot]: _, ...others } = page.slots
  return { ...page, slots: content === emptyHash ? others : { ...others, [slot]: content } }
}

/** A text of a page, and the slot it is written for. */
export interface SlotText {
  readonly slot: string
  readonly hash: Hash
}

/** Every text of a page, that of the slot `content` first. */
export const textsOfPage = (page: Pick<Page, 'content' | 'slots'>): SlotText[] => [
  { slot: mainSlot, hash: page.content },
  ...Object.entries(page.slots).map(([slot, hash]) => ({ slot, hash })),
]

/** A slot that holds another text in one of two pages, or in one at another time. */
export interface TextDifference {
  readonly slot: string
  readonly was: Hash
  readonly now: Hash
}

/** Where the texts of two pages differ, or of one at two times, slot by slot; the slot `content` first. */
export function differingTexts(
  then: Pick<Page, 'content' | 'slots'>,
  now: Pick<Page, 'content' | 'slots'>,
): TextDifference[] {
  const slots = new Set([...textsOfPage(then), ...textsOfPage(now)].map(({ slot }) => slot))
  return [...slots]
    .map((slot) => ({ slot, was: slotOf(then, slot), now: slotOf(now, slot) }))
    .filter(({ was, now }) => was !== now)
}

/** Hashes of every text of some pages. */
export const contentsOfPages = (pages: readonly Pick<Page, 'content' | 'slots'>[]): Hash[] =>
  pages.flatMap((page) => [page.content, ...Object.values(page.slots)])

/** Hashes of what originals held when their translations said the same. */
export const contentsOfOriginals = (pages: readonly Page[]): Hash[] =>
  contentsOfPages(pages.flatMap(({ translatedFrom }) => translatedFrom ?? []))

/** A file that is not a page: a style sheet, a picture, a document. */
export interface SiteFile {
  readonly id: string
  readonly kind: FileKind
  /**
   * Its name as the author brought it; the path in the site is computed by the scheme. One that begins with a slash is
   * that path from the top: `/papers/Report.PDF`.
   */
  readonly label: string
  readonly seq: number
  readonly hash: Hash
  readonly sizeBytes: number
}

/** A shared template, in the language described in `core/template`. */
export interface Template {
  readonly id: string
  readonly name: string
  readonly source: Hash
  /** The template whose slots this one fills; null for one that is a whole document. */
  readonly basedOn: string | null
}

/** How finished pages are written. */
export interface Output {
  /** One level of indentation: as each text has it, so many spaces, or a tab. */
  readonly indent: 'as-written' | '2' | '4' | 'tab'
  readonly lineEnd: 'lf' | 'crlf'
  /** Whether comments say what generated parts and slots begin with. */
  readonly comments: boolean
  /** Whether links to a home page name its folder, or as where nothing is said, its file, which works from a disk too. */
  readonly links?: 'files' | 'folders'
  /** Whether a list of all pages is made for search engines, once the site says where visitors find it. */
  readonly sitemap?: true
  /** Whether feeds of the pages that carry a date are made for each language, once the site says where visitors find it. */
  readonly feed?: true
}

export const defaultOutput: Output = { indent: 'as-written', lineEnd: 'lf', comments: false }

/** A finding that its author put aside, with why. It holds as long as what is found is the same. */
export interface Aside {
  /** What was found, as a sentence. */
  readonly what: string
  readonly reason: string
}

/** What is said of checking the site. */
export interface Checking {
  /** Findings put aside, by their keys. */
  readonly asides: Readonly<Record<string, Aside>>
  /** What a page may weigh with all that it needs, in bytes. */
  readonly mostPageBytes: number
}

/** Findings that one site may have put aside. */
export const mostAsides = 5_000

/** Words that one site may keep as right. */
export const mostOwnWords = 5_000

export const defaultChecking: Checking = { asides: {}, mostPageBytes: 1_000_000 }

/** What is said once for the whole site. */
export interface SiteSettings {
  readonly name: string
  /** BCP 47 tag for `html lang`, of pages for which no other is said. */
  readonly language: string
  /** What `{title}` stands for, over `{page}` and `{site}`. */
  readonly titlePattern: string
  /** The home page's own pattern; '' for the one of all pages. */
  readonly homeTitlePattern: string
  /**
   * Where visitors find it, such as `https://skerry.example/light/`; '' where nothing is said. References that begin with
   * it are the site's own.
   */
  readonly publicAddress: string
  readonly homeId: string
  /** The template of pages for which nothing else is said. */
  readonly templateId: string
  readonly output: Output
  readonly checking: Checking
  /** Words that are right in it whatever dictionaries say, each once, as they are written. */
  readonly ownWords: readonly string[]
  readonly scheme: Scheme
  /** The number the next page or file gets as its `seq`. */
  readonly nextSeq: number
}

/** The whole site as plain data that survives JSON; contents are named by hash and kept beside it. */
export interface Site extends SiteSettings {
  readonly id: string
  readonly pages: readonly Page[]
  readonly files: readonly SiteFile[]
  readonly templates: readonly Template[]
}

/** Where texts named by hash come from. Throws when a text was not made available. */
export type TextOf = (hash: Hash) => string
