import { relativeReference } from '#core/links'
import {
  applyEdits,
  escapeAttribute,
  escapeText,
  placeId,
  placesIn,
  type Range,
  readHtml,
} from '#core/markup'
import { namesOf } from '#core/naming'
import { languagesOf, lastUnder, treeOf } from '#core/plan'
import type { Hash, Page, Site } from '#core/site'
import { homeFileOf } from '#core/template'
import { edit } from '../edit'
import type { WriteMovedText } from '../kinds/texts/move-text'
import { carried } from './carried'
import { pageOfPart, type PartHeading } from './parts'

type Request = WriteMovedText & { readonly kind: 'moveText' }

/** A page's text where it stands now. */
export interface TextOfPage {
  readonly page: Page
  readonly slot: string
  readonly text: string
  readonly was: Hash
}

/** A part that becomes a page. */
export interface ChosenPart {
  /** The new page's id. */
  readonly id: string
  readonly label: string
  readonly part: PartHeading
}

/** A heading that stands within what another one takes away goes with it. */
export const isWithin = (inner: Range, outer: Range): boolean =>
  inner !== outer && inner.start >= outer.start && inner.end <= outer.end

/**
 * Splits a page at some of its headings: each part becomes a page, and references to what is in it follow.
 * @param under whether the new pages stand below the page or after it
 * @param leavesLinks whether a link stands where each part was
 */
export function splitRequest(
  site: Site,
  { page, slot, text, was }: TextOfPage,
  chosen: readonly ChosenPart[],
  { under, leavesLinks }: { readonly under: boolean; readonly leavesLinks: boolean },
): Request {
  const tree = treeOf(site)
  const isBelow = under && page.id !== site.homeId
  const parentId = isBelow ? page.id : page.parentId
  const after = isBelow ? lastUnder(tree, page.id, []) : page.id
  const outermost = chosen.filter(({ part }) => !chosen.some((one) => isWithin(part.range, one.part.range)))
  // They are in what the page is, wherever they stand.
  const spoken = languagesOf(site)
  const parent = parentId === null ? undefined : tree.byId.get(parentId)
  const isOther = spoken.of(page) !== (parent ? spoken.of(parent) : site.language)
  const said = isOther ? { language: spoken.of(page) } : {}
  // The names they will have are those of pages just like them.
  const planned = edit(site, {
    kind: 'addPages',
    parentId,
    after,
    pages: outermost.map(({ id, label }) => ({ id, label, ...said })),
    content: was,
  })
  const names = namesOf(site)
  const then = 'site' in planned ? namesOf(planned.site) : names
  const from = names.pages.get(page.id)!.path
  const fromThen = then.pages.get(page.id)!.path
  const homeFile = homeFileOf(site)
  const parts = outermost.map(({ id, label, part }) => ({ id, label, part, made: pageOfPart(text, part) }))
  const rest = applyEdits(
    text,
    parts.map(({ id, label, part }) => {
      const href = relativeReference(fromThen, then.pages.get(id)?.path ?? '')
      const link = `<p><a href="${escapeAttribute(href)}">${escapeText(label)}</a></p>\n`
      const end = /^\s*/.exec(text.slice(part.range.end))![0].length
      return { start: part.range.start, end: part.range.end + end, text: leavesLinks ? link : '' }
    }),
  )
  return {
    kind: 'moveText',
    why: 'split',
    texts: [{ pageId: page.id, slot, was, text: rest.trimEnd() + '\n' }],
    added: parts.map(({ id, label, made }) => ({
      id,
      label,
      ...said,
      text: carried(made.text, readHtml(made.text), from, names, homeFile, new Set(made.ids)) + '\n',
    })),
    parentId,
    after,
    removed: [],
    places: parts.map(({ id, made }) => ({ from: page.id, to: id, ids: made.ids })),
  }
}

/** Moves a chosen piece of one page's text to the end of another's. */
export function pieceRequest(site: Site, from: TextOfPage, piece: Range, to: TextOfPage): Request {
  const names = namesOf(site)
  const text = from.text.slice(piece.start, piece.end)
  const facts = readHtml(text)
  const moved = carried(
    text,
    facts,
    names.pages.get(from.page.id)!.path,
    names,
    homeFileOf(site),
    new Set(placesIn(facts)),
  )
  return {
    kind: 'moveText',
    why: 'move',
    texts: [
      { pageId: from.page.id, slot: from.slot, was: from.was, text: from.text.slice(0, piece.start) + from.text.slice(piece.end) },
      { pageId: to.page.id, slot: to.slot, was: to.was, text: joined(to.text, moved) },
    ],
    added: [],
    parentId: null,
    after: null,
    removed: [],
    places: [{ from: from.page.id, to: to.page.id, ids: placesIn(facts) }],
  } // prettier-ignore
}

/** Makes a page a part of another, at its end and under a heading; the page itself goes. */
export function joinRequest(site: Site, page: TextOfPage, into: TextOfPage): Request {
  const names = namesOf(site)
  const facts = readHtml(page.text)
  const there = readHtml(into.text)
  const id = placeId(page.page.label, [...placesIn(there), ...placesIn(facts)])
  const lowered = applyEdits(
    page.text,
    facts.headings.flatMap((heading) => {
      const name = `h${Math.min(6, heading.level + 1)}`
      const close = page.text
        .slice(heading.start, heading.end)
        .toLowerCase()
        .lastIndexOf(`</h${heading.level}`)
      const open = { start: heading.start + 1, end: heading.start + 3, text: name }
      return close > 0
        ? [open, { start: heading.start + close + 2, end: heading.start + close + 4, text: name }]
        : [open]
    }),
  )
  const readAgain = readHtml(lowered)
  const moved = carried(lowered, readAgain, names.pages.get(page.page.id)!.path, names, homeFileOf(site), new Set(placesIn(facts))) // prettier-ignore
  const heading = `<h2 id="${escapeAttribute(id)}">${escapeText(page.page.label)}</h2>\n`
  return {
    kind: 'moveText',
    why: 'join',
    texts: [
      { pageId: into.page.id, slot: into.slot, was: into.was, text: joined(into.text, heading + moved) },
    ],
    added: [],
    parentId: null,
    after: null,
    removed: [page.page.id],
    places: [{ from: page.page.id, to: into.page.id, ids: placesIn(facts), top: id }],
  }
}

const joined = (before: string, text: string): string =>
  before.trim() === '' ? `${text.trim()}\n` : `${before.trimEnd()}\n${text.trim()}\n`
