import type { FileKind, Hash, Page, Scheme } from '#core/site'

/** A line of a pasted outline on its way to becoming pages; its id is chosen by who makes the change. */
export interface NewPage {
  readonly id: string
  readonly label: string
  readonly trial?: boolean
  readonly inMenus?: boolean
  readonly details?: PlannedPage['details']
  readonly children?: readonly NewPage[]
}

/** A line of a plan that takes the place of the one there was: a page known by its id, or a new one. */
export interface PlannedPage {
  readonly id: string
  readonly label: string
  readonly trial: boolean
  readonly inMenus: boolean
  /** Only what is named is set. */
  readonly details?: { readonly ownName?: string; readonly title?: string; readonly description?: string }
  readonly children: readonly PlannedPage[]
}

/** What puts one plan in the place of another: only what differs from the plan its author saw. */
export interface PlanEdit {
  /** New pages with all that is new below them, each run after a sibling (null: first). */
  readonly added: readonly {
    readonly parentId: string | null
    readonly after: string | null
    readonly pages: readonly NewPage[]
  }[]
  /** Pages that go to another place, after a sibling that may itself be new or moved; `was` is where the author saw them. */
  readonly moved: readonly {
    readonly pageId: string
    readonly parentId: string | null
    readonly after: string | null
    readonly was: Pick<Page, 'parentId' | 'order'>
  }[]
  readonly changed: readonly {
    readonly pageId: string
    readonly field: 'label' | 'title' | 'description' | 'ownName' | 'trial' | 'inMenus'
    readonly value: string | boolean | null
    readonly was: string | boolean | null
  }[]
  /** Pages the plan leaves out, with a mark of what the author saw of them. */
  readonly removed: readonly { readonly pageId: string; readonly was: string }[]
}

/** Page fields that are texts of their own. `was` tells what the author saw when writing. */
export type PageTextField = 'label' | 'title' | 'description' | 'ownName' | 'date'

/** Every change a user can make, as plain data. Applied by `edit` and nowhere else. */
export type Change =
  /** Adds pages with all below them, after a sibling (null: as the first). */
  | {
      readonly kind: 'addPages'
      readonly parentId: string | null
      readonly after: string | null
      readonly pages: readonly NewPage[]
      /** What a new page's content slot holds. */
      readonly content: Hash
    }
  | {
      readonly kind: 'setPageText'
      readonly pageId: string
      readonly field: PageTextField
      readonly value: string | null
      readonly was: string | null
    }
  | { readonly kind: 'setContent'; readonly pageId: string; readonly content: Hash; readonly was: Hash }
  | {
      readonly kind: 'setPageFlag'
      readonly pageIds: readonly string[]
      readonly flag: 'trial' | 'inMenus' | 'dated'
      readonly value: boolean
    }
  /** Moves pages, in the order given, to follow a sibling (null: to be the first). */
  | {
      readonly kind: 'movePages'
      readonly pageIds: readonly string[]
      readonly parentId: string | null
      readonly after: string | null
    }
  /**
   * Puts a whole plan in the place of the one its author saw (`planEdit`). What others did meanwhile to
   * other pages or other fields stays; where both did something to the same, it is refused.
   */
  | ({ readonly kind: 'replacePlan'; readonly content: Hash } & PlanEdit)
  /** Makes copies of pages with all below them, each after its original, with the ids given. */
  | {
      readonly kind: 'duplicatePages'
      readonly pageIds: readonly string[]
      /** New ids by the ids of the originals, for every page of the branches. */
      readonly newIds: Readonly<Record<string, string>>
    }
  /** Gives names that were held still back to the scheme; the addresses change. */
  | { readonly kind: 'releaseNames'; readonly pageIds: readonly string[] }
  /** Takes forwarding pages away: these old addresses are given up. */
  | { readonly kind: 'dropAddresses'; readonly addresses: Readonly<Record<string, readonly string[]>> }
  /** Brings all pages up to the paths under which they are delivered. Made by the server as it sends. */
  | { readonly kind: 'noteAddresses'; readonly addresses: Readonly<Record<string, readonly string[]>> }
  /** Makes another page the home page; the one before takes its place in the plan. */
  | { readonly kind: 'setHome'; readonly pageId: string; readonly was: string }
  /** Removes pages with all below them. */
  | { readonly kind: 'removePages'; readonly pageIds: readonly string[] }
  | {
      readonly kind: 'setScheme'
      readonly scheme: Scheme
      readonly was: Scheme
      /** Whether addresses that are out in the world are left with a forwarder; given up otherwise. */
      readonly forward?: boolean
    }
  | {
      readonly kind: 'setSetting'
      readonly field: 'name' | 'language' | 'titlePattern'
      readonly value: string
      readonly was: string
    }
  | { readonly kind: 'setTemplate'; readonly templateId: string; readonly source: Hash; readonly was: Hash }
  | {
      readonly kind: 'addFile'
      readonly id: string
      readonly fileKind: FileKind
      readonly label: string
      readonly hash: Hash
      readonly sizeBytes: number
    }
  | {
      readonly kind: 'setFile'
      readonly fileId: string
      readonly hash: Hash
      readonly sizeBytes: number
      readonly was: Hash
    }
  | { readonly kind: 'removeFile'; readonly fileId: string }

/** Why a change could not be made. */
export type Refusal =
  /** What it is about is no longer there. */
  | { readonly reason: 'gone'; readonly message: string }
  /** The field was changed since the author saw it; `now` is what it holds. */
  | { readonly reason: 'changed-elsewhere'; readonly message: string; readonly now: string | null }
  /** It makes no sense: a page under itself, an empty label, the home page removed. */
  | { readonly reason: 'invalid'; readonly message: string }
