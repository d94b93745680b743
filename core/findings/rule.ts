import type { ChangeRequest } from '#core/change'
import type { FileFacts, HtmlFacts, LinePlace, Pieced, Range, StyleFacts, TextEdit } from '#core/markup'
import type { PlanToken } from '#core/links'
import type { Names } from '#core/naming'
import type { Tree } from '#core/plan'
import type { Pixels } from '#core/pictures'
import { type Hash, mainSlot, type Page, type Site, type SiteFile, type Template } from '#core/site'
import type { CompiledTemplate, SiteContext, SiteTemplates } from '#core/template'

/**
 * Where the thing a finding speaks of stands: in a page, a template or a style sheet, as a whole or at a line;
 * where it is known, from which code unit to which.
 */
export interface FindingPlace extends Partial<LinePlace & Range> {
  readonly kind: 'page' | 'template' | 'file'
  readonly id: string
  /** Of a page: the slot it stands in, where that is not `content`. */
  readonly slot?: string
  /** Of a page: the line of it as it comes out, where that is what was looked at. */
  readonly madeLine?: number
  /** What is written there, or how it begins. */
  readonly piece?: string
}

/** What is read of a text that knows where it stands. */
export type Told = LinePlace & Partial<Range & Pieced>

/** How much it takes from a visitor: what they came for, some of the way, or hardly anything. */
export type Grade = 'breaks' | 'hinders' | 'detail'

/** One way to mend what was found. */
export type Mend =
  | ({ readonly words: string; readonly change: ChangeRequest } & Sureness)
  /** Edits of the text at the finding's place, which is `was` and has to be fetched to be written. */
  | ({
      readonly words: string
      readonly edits: readonly TextEdit[]
      readonly was: Hash
      /** The text that is edited, where that is not the one at the finding's place. */
      readonly in?: Pick<FindingPlace, 'kind' | 'id' | 'slot'>
      /** Leaves the template as it is, and has some of its pages made with a copy that is edited so. */
      readonly copy?: EditedCopy
    } & Sureness)

/** What takes the place of a template for some of its pages. */
export interface EditedCopy {
  readonly name: string
  /** Pages that it is for, with those below them. */
  readonly forPages: readonly string[]
  /** Templates that are based on it in the place of the other. */
  readonly rebased: readonly string[]
  /** Those of which a copy is, for some pages of theirs. */
  readonly copies: readonly {
    readonly of: string
    readonly name: string
    readonly forPages: readonly string[]
  }[]
}

interface Sureness {
  /** Only when asked for by itself: there is a surer way, or it is a guess. */
  readonly isOther?: true
}

/** What a rule says of one thing that it found. */
export interface Found {
  /** Tells it from others of its rule at the same page or template: what it is, not where it stands now. */
  readonly mark?: string
  readonly place: FindingPlace
  readonly what: string
  readonly mends?: readonly Mend[]
}

/** Something that is wrong or risky: where it is, what it is, and how it can be mended. */
export interface Finding extends Omit<Found, 'mark'> {
  readonly rule: string
  readonly grade: Grade
  /** Stays the same while the thing it speaks of does, so that it can be put aside. */
  readonly key: string
  readonly mends: readonly Mend[]
  /** Of colours: the two as `#rrggbb`, and what the first would be. */
  readonly colours?: ShownColours
}

/** Text on its ground as it is seen, to be shown beside what is said of it. */
export interface ShownColours {
  readonly text: string
  readonly ground: string
  /** Null where none is offered. */
  readonly better: string | null
}

/** What rules read. */
export interface FindingContext extends SiteContext {
  readonly site: Site
  readonly tree: Tree
  readonly names: Names
  readonly homeFile: string
  /** Real pages in reading order. */
  readonly pages: readonly Page[]
  readonly factsOf: (hash: Hash) => HtmlFacts
  /** A template's own source, by itself. */
  readonly compiled: (template: Template) => CompiledTemplate
  readonly sourceOf: (template: Template) => string
  /** Templates put together with what they are based on; null for rules that read the plan alone. */
  readonly templates: SiteTemplates | null
  readonly styleFactsOf: (hash: Hash) => StyleFacts
  /** What a file of any kind refers to. */
  readonly fileFactsOf: (file: SiteFile) => FileFacts
  readonly pixelsOf: (hash: Hash) => Pixels | null
  readonly publicAddresses: readonly string[]
  /**
   * The same object as long as all that references can lead to stands where it did, under the names it had, and
   * visitors see the site under the same addresses. What rules say of references is kept for it.
   */
  readonly planToken: PlanToken
}

/** What a rule is about, whatever asks it. */
export interface About {
  readonly id: string
  readonly grade: Grade
  /** What kind of thing it finds, as a heading. */
  readonly title: string
  /** Why it matters to a visitor. */
  readonly why: string
}

/**
 * A rule, by what it reads. One that reads nothing but a text is asked once for each text and its answer
 * kept; one that reads a page is asked for each page; one that compares pages is asked once.
 */
export type Rule = About &
  (
    | {
        readonly reads: 'text'
        /** @param at makes the place of what is found in this text */
        readonly find: (facts: TextFacts, at: PlaceIn, was: Hash) => Found[]
      }
    | { readonly reads: 'references'; readonly find: FindInReferences }
    | {
        readonly reads: 'page'
        readonly find: (page: Page, context: FindingContext) => Found | Found[] | null
      }
    | {
        readonly reads: 'style'
        readonly find: (facts: StyleFacts, style: StyleRead, context: FindingContext) => Found[]
      }
    | { readonly reads: 'site'; readonly find: (context: FindingContext) => Found[] }
  )

/** What rules read of a text that may be a page's or a template's. */
export type TextFacts = Pick<
  HtmlFacts,
  'bases' | 'references' | 'errors' | 'tags' | 'notes' | 'runs' | 'styleFaults'
>

/** A style sheet of the site, where it stands, and how a place in it is told. */
export interface StyleRead {
  readonly file: SiteFile
  readonly path: string
  readonly at: PlaceIn
}

export type PlaceIn = (line?: Told) => FindingPlace

/** The references of one text, from where it is understood: the path of a page, '' for a template. */
export type FindInReferences = (
  references: HtmlFacts['references'],
  text: {
    readonly from: string
    readonly was: Hash
    readonly at: PlaceIn
    readonly links: HtmlFacts['links']
  },
  context: FindingContext,
) => Found[]

/** A place told of something that was read: where it stands and what is written there. */
export const placeTold = (told: Told): Omit<FindingPlace, 'kind' | 'id'> => ({
  line: told.line,
  column: told.column,
  ...(told.start !== undefined && { start: told.start, end: told.end }),
  ...(told.piece !== undefined && { piece: told.piece }),
})
const placeOf =
  (kind: FindingPlace['kind']) =>
  ({ id }: { readonly id: string }, told?: Told): FindingPlace => ({ kind, id, ...(told && placeTold(told)) })

/** In a slot of a page: told where it is not the one that every page is written in. */
export const inSlot = (page: Page, slot: string, told?: Told): FindingPlace => ({
  ...inPage(page, told),
  ...(slot !== mainSlot && { slot }),
})
export const inPage: (page: Page, told?: Told) => FindingPlace = placeOf('page')
export const inTemplate: (template: Template, told?: Told) => FindingPlace = placeOf('template')
export const inFile: (file: SiteFile, told?: Told) => FindingPlace = placeOf('file')
