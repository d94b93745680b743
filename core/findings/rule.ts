import type { ChangeRequest } from '#core/change'
import type { HtmlFacts, LinePlace, TextEdit } from '#core/markup'
import type { Names } from '#core/naming'
import type { Tree } from '#core/plan'
import type { Hash, Page, Site, Template } from '#core/site'
import type { CompiledTemplate, SiteContext, SiteTemplates } from '#core/template'

/** Where the thing a finding speaks of stands: in a page or in a template, as a whole or at a line. */
export interface FindingPlace extends Partial<LinePlace> {
  readonly kind: 'page' | 'template'
  readonly id: string
  /** Of a page: the slot it stands in, where that is not `content`. */
  readonly slot?: string
}

/** One way to mend what was found. */
export type Mend =
  | { readonly words: string; readonly change: ChangeRequest }
  /** Edits of the text at the finding's place, which is `was` and has to be fetched to be written. */
  | { readonly words: string; readonly edits: readonly TextEdit[]; readonly was: Hash }

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
  /** Stays the same while the thing it speaks of does, so that it can be put aside. */
  readonly key: string
  readonly mends: readonly Mend[]
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
  /** Templates put together with what they are based on; null for rules that read the plan alone. */
  readonly templates: SiteTemplates | null
}

interface About {
  readonly id: string
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
        readonly find: (
          facts: Pick<HtmlFacts, 'bases' | 'errors' | 'tags' | 'notes'>,
          at: PlaceIn,
          was: Hash,
        ) => Found[]
      }
    | { readonly reads: 'references'; readonly find: FindInReferences }
    | { readonly reads: 'page'; readonly find: (page: Page, context: FindingContext) => Found | null }
    | { readonly reads: 'site'; readonly find: (context: FindingContext) => Found[] }
  )

export type PlaceIn = (line?: LinePlace) => FindingPlace

/** The references of one text, from where it is understood. */
export type FindInReferences = (
  references: HtmlFacts['references'],
  text: { readonly from: string; readonly was: Hash; readonly at: PlaceIn },
  context: FindingContext,
) => Found[]

export const inPage = ({ id }: Page, line?: LinePlace): FindingPlace => ({
  kind: 'page',
  id,
  ...(line && { line: line.line, column: line.column }),
})
export const inTemplate = ({ id }: Template, line?: LinePlace): FindingPlace => ({
  kind: 'template',
  id,
  ...(line && { line: line.line, column: line.column }),
})
