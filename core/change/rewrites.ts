import {
  readOwnAddress,
  relativeReference,
  resolveReference,
  splitReference,
  targetOf,
  writtenFromPage,
} from '#core/links'
import {
  encodePath,
  fileSyntaxOf,
  type HtmlFacts,
  type Reference,
  referencesOfFile,
  type TextEdit,
  writeReference,
} from '#core/markup'
import { type Names, namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import { type Hash, type Site, type SiteFile, slotOf, textsOfPage, type TextOf, withSlot } from '#core/site'
import { compileTemplate, homeFileOf } from '#core/template'
import { type MovedPlaces, placesAfter } from './moved-places'

/** A text whose references have to follow a change. */
export interface Rewrite {
  readonly owner: {
    readonly kind: 'page' | 'file' | 'template'
    readonly id: string
    /** Of a page: which of its texts. */
    readonly slot?: string
  }
  /** The text as it is after the change, before its references are mended. */
  readonly hash: Hash
  readonly edits: readonly (TextEdit & { readonly was: string })[]
  /** Whether it leads a text that was copied from another page to where copies lead. */
  readonly isOfCopy?: true
}

/** What parsing yields, by hash; see `readHtml`. */
export interface RewriteSources {
  readonly factsOf: (hash: Hash) => HtmlFacts
  readonly textOf: TextOf
  /** What a file refers to, read already; without it it is read each time it is asked for. */
  readonly referencesOf?: (file: SiteFile) => readonly Reference[]
}

/** A page or file that stands elsewhere after a change. */
export interface Moved {
  readonly kind: 'page' | 'file'
  readonly id: string
  readonly from: string
  readonly to: string
}

const nothing: readonly Reference[] = []

/** What a file refers to; the text of one that cannot refer to anything is not asked for. */
function referencesOf(file: SiteFile, { referencesOf: known, textOf }: RewriteSources): readonly Reference[] {
  if (known) return known(file)
  const syntax = fileSyntaxOf(file.label, file.sizeBytes)
  return syntax === null ? nothing : referencesOfFile(textOf(file.hash), syntax)
}

/** Every page and file that is there before and after, and whose path differs. */
export function findMoved(before: Site, after: Site): Moved[] {
  const were = namesOf(before)
  const become = namesOf(after)
  const moved: Moved[] = []
  for (const [id, { path: from }] of were.pages) {
    const to = become.pages.get(id)?.path
    if (to !== undefined && to !== from) moved.push({ kind: 'page', id, from, to })
  }
  for (const [id, from] of were.files) {
    const to = become.files.get(id)
    if (to !== undefined && to !== from) moved.push({ kind: 'file', id, from, to })
  }
  return moved
}

/** What a change tells of the texts that it touches. */
export interface ToldOfTexts {
  /** Copies by the ids of their originals: a copy leads where its original does, and to the copy of what was copied with it. */
  readonly copies?: Readonly<Record<string, string>>
  /** Pages that references of copies lead to in place of others. */
  readonly leads?: Readonly<Record<string, string>>
  /** Places that stand in another page after it. */
  readonly places?: readonly MovedPlaces[]
  /** Pages, files and templates whose texts were written for the site as it is after it. */
  readonly written?: readonly string[]
}

/** Whether the site as a whole is found at another address after a change, and not just at one that was not known. */
export const isReaddressed = (before: Site, after: Site): boolean =>
  before.publicAddress !== '' && after.publicAddress !== '' && before.publicAddress !== after.publicAddress

/** Whether a change can make a reference wrong: only where something stands elsewhere after it, or stands there as well. */
export const movesAnything = (
  before: Site,
  after: Site,
  { copies = {}, places = [] }: ToldOfTexts = {},
): boolean =>
  Object.keys(copies).length > 0 ||
  places.length > 0 ||
  isReaddressed(before, after) ||
  findMoved(before, after).length > 0

/**
 * Finds the references that a change makes wrong: those whose target moved, and relative ones in
 * a page that moved itself. A reference to something that was not there before is left alone.
 */
export function findRewrites(
  before: Site,
  after: Site,
  sources: RewriteSources,
  { copies = {}, leads = {}, places = [], written = [] }: ToldOfTexts = {},
): Rewrite[] {
  const originals = new Map(Object.entries(copies).map(([original, copy]) => [copy, original]))
  if (!movesAnything(before, after, { copies, places })) return []
  const isWritten = new Set(written)
  const knownBefore = treeOf(before).byId
  const placeAfter = placesAfter(places)
  const were = namesOf(before)
  const become = namesOf(after)
  const states = { were, become, homeFile: homeFileOf(before), homeAfter: homeFileOf(after) }
  const rewrites: Rewrite[] = []
  const stays = (id: string) => id
  /** Whatever page the home page is: a folder's address means its home, and the template's header leads there. */
  const toHome = (id: string) => (id === before.homeId ? after.homeId : id)

  /** A reference to a place that stands in another page now; null where it is where it was. */
  const toMovedPlace = (owner: Rewrite['owner'], href: string, from: string, to: string): string | null => {
    if (places.length === 0) return null
    const target = resolveReference(href, from, were, states.homeFile)
    const here = target.kind === 'here' && owner.kind === 'page' ? owner.id : null
    const pageId = here ?? (target.kind === 'page' ? target.id : null)
    const place = pageId === null || !('suffix' in target) ? null : placeAfter(pageId, target.suffix)
    const path = place ? become.pages.get(place.pageId)?.path : undefined
    if (!place || path === undefined) return null
    const own = ownAddressAfter(href, states)
    if (owner.id === place.pageId && own === null) return place.suffix
    const next =
      isRooted(href) || own ? `${own?.base ?? ''}/${encodePath(path)}` : relativeReference(to, path)
    return next + place.suffix
  }

  const mend = (
    owner: Rewrite['owner'],
    hash: Hash,
    references: readonly Reference[],
    from: string,
    to: string,
    goal: (id: string) => string = stays,
  ) => {
    const edits = references.flatMap((reference) => {
      const isFolder = namesFolder(reference.href, ownAddressAfter(reference.href, states)?.rest)
      const goalHere = isFolder ? (id: string) => goal(toHome(id)) : goal
      const href =
        toMovedPlace(owner, reference.href, from, to) ??
        mendedReference(reference, from, to, states, goalHere)
      if (href === null) return []
      const text = writeReference(reference, href)
      return [{ start: reference.start, end: reference.end, text, was: reference.href }]
    })
    if (edits.length > 0) rewrites.push({ owner, hash, edits, ...(goal !== stays && { isOfCopy: true }) })
  }
  for (const page of after.pages) {
    const to = become.pages.get(page.id)?.path
    if (to === undefined || isWritten.has(page.id)) continue
    const held = knownBefore.get(page.id)
    for (const { slot, hash } of textsOfPage(page)) {
      // A copy that is there already has its own text but where it takes that of its original.
      const original = held && slotOf(held, slot) === hash ? undefined : originals.get(page.id)
      // What was taken from another page to make this one names everything from the top of the site.
      const from = were.pages.get(original ?? page.id)?.path ?? (places.length > 0 ? to : undefined)
      if (from === undefined) continue
      const goal = original === undefined ? undefined : (id: string) => copies[id] ?? leads[id] ?? id
      mend({ kind: 'page', id: page.id, slot }, hash, sources.factsOf(hash).references, from, to, goal)
    }
  }
  for (const template of after.templates) {
    if (isWritten.has(template.id)) continue
    const { references } = compileTemplate(sources.textOf(template.source))
    mend({ kind: 'template', id: template.id }, template.source, references, '', '', toHome)
  }
  for (const file of after.files) {
    const from = were.files.get(file.id)
    const to = become.files.get(file.id)
    if (from === undefined || to === undefined || isWritten.has(file.id)) continue
    const references = referencesOf(file, sources)
    if (references.length === 0) continue
    mend({ kind: 'file', id: file.id }, file.hash, references, from, to)
  }
  return rewrites
}

const isRooted = (href: string): boolean => href.startsWith('/')

/** Whether a reference names a folder for its home page; the site's address by itself does, too. */
const namesFolder = (href: string, rest = href): boolean => splitReference(rest).path.endsWith('/')

/** A reference that names the site by its whole address, with what it begins with after a change; null for any other. */
function ownAddressAfter(href: string, { were, become }: { were: Names; become: Names }) {
  const own = isRooted(href) ? null : readOwnAddress(href, were.publicAddress)
  if (own === null) return null
  const isKept = become.publicAddress === '' || become.publicAddress === were.publicAddress
  const base = isKept ? own.base : become.publicAddress.slice(0, -1)
  return { base, rest: own.href, isReaddressed: base !== own.base }
}

/**
 * A reference as it has to be after a change; null where it is right as it is.
 * @param from path of what holds it before, and `to` after
 * @param goal the page it is to lead to now, for the one it led to
 */
function mendedReference(
  reference: Pick<Reference, 'href' | 'fromPage' | 'ifThere'>,
  from: string,
  to: string,
  { were, become, homeFile, homeAfter }: { were: Names; become: Names; homeFile: string; homeAfter: string },
  goal: (id: string) => string,
): string | null {
  const { href, fromPage } = reference
  const target = targetOf(reference, from, were, homeFile)
  const own = ownAddressAfter(href, { were, become })
  // What is none of its pages and files is its host's, who moves with it.
  if (own?.isReaddressed && target.kind === 'missing') return reference.ifThere ? null : own.base + own.rest
  if (target.kind !== 'page' && target.kind !== 'file') return null
  const path = target.kind === 'page' ? become.pages.get(goal(target.id))?.path : become.files.get(target.id)
  // Gone altogether: the reference is reported as broken, not bent to something else.
  if (path === undefined) return null
  const next = fromPage && own === null ? writtenFromPage(href, target.path, path, target.suffix) : null
  if (next !== null) return next === href ? null : next
  const rooted = isRooted(href) || own !== null
  if (path === target.path && (rooted || from === to) && !own?.isReaddressed) return null
  // Written for a folder, and still one: "/birds/" stays without its file name.
  const bare = href.slice(0, href.length - target.suffix.length)
  const fileAfter = path.slice(path.lastIndexOf('/') + 1)
  const asFolder = namesFolder(bare, own?.rest) && fileAfter === homeAfter
  const named = rooted ? `${own?.base ?? ''}/${encodePath(path)}` : relativeReference(to, path)
  const shown = asFolder ? named.slice(0, named.length - fileAfter.length) || './' : named
  return shown === bare ? null : shown + target.suffix
}

/** How many references in the remaining pages lead to something that the change takes out of the site. */
export function countBroken(
  before: Site,
  after: Site,
  factsOf: RewriteSources['factsOf'],
  places: readonly MovedPlaces[] = [],
): number {
  const placeAfter = placesAfter(places)
  const were = namesOf(before)
  const become = namesOf(after)
  const home = homeFileOf(before)
  const real = new Set(realPlaces(treeOf(after)).map(({ page }) => page.id))
  const wasReal = new Set(realPlaces(treeOf(before)).map(({ page }) => page.id))
  let broken = 0
  for (const page of after.pages) {
    const from = were.pages.get(page.id)?.path
    if (from === undefined || !real.has(page.id)) continue
    for (const { href } of textsOfPage(page).flatMap(({ hash }) => factsOf(hash).references)) {
      const target = resolveReference(href, from, were, home)
      if (
        target.kind === 'page' &&
        wasReal.has(target.id) &&
        !real.has(target.id) &&
        !placeAfter(target.id, target.suffix)
      )
        broken += 1
      if (target.kind === 'file' && !become.files.has(target.id)) broken += 1
    }
  }
  return broken
}

/** The site with what was rewritten in the place of what it was made from. */
export function withRewritten(
  site: Site,
  made: readonly (Pick<Rewrite, 'owner'> & { readonly hash: Hash; readonly sizeBytes: number })[],
): Site {
  if (made.length === 0) return site
  const byOwner = new Map<string, typeof made>()
  for (const one of made) byOwner.set(one.owner.id, [...(byOwner.get(one.owner.id) ?? []), one])
  return {
    ...site,
    pages: site.pages.map((page) =>
      (byOwner.get(page.id) ?? []).reduce((next, { owner, hash }) => withSlot(next, owner.slot!, hash), page),
    ),
    templates: site.templates.map((one) => {
      const [next] = byOwner.get(one.id) ?? []
      return next ? { ...one, source: next.hash } : one
    }),
    files: site.files.map((one) => {
      const [next] = byOwner.get(one.id) ?? []
      return next ? { ...one, hash: next.hash, sizeBytes: next.sizeBytes } : one
    }),
  }
}
