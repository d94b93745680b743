import { fieldsOfPage, fieldsOfSite, type OwnedText, type SaidOfPage, type SaidOfSite } from '#core/change'
import type { TextKind } from '#core/find'
import { fileSyntaxOf } from '#core/markup'
import { type Hash, mainSlot, type Site, textsOfPage } from '#core/site'

/** A text of a site, and of which kind it is. */
export interface HeldText {
  readonly owner: OwnedText
  readonly is: TextKind
  /** Of a file: as many bytes as its text has to come to, or it is in another encoding. */
  readonly sizeBytes?: number
}

/** A line that is said, and of which kind it is. */
export interface SaidLine {
  readonly owner: SaidOfPage | SaidOfSite
  readonly is: TextKind
}

/** What is said on one line, in UTF-16 code units, whatever it is about. */
export { longestLine as longestSaid } from '#core/change/inputs'

/** Files that are looked through, in bytes: what is longer nobody wrote by hand. */
const longest = 4_000_000

/** Every text of a site. */
export function textsHeld(site: Site): HeldText[] {
  const of = (kind: OwnedText['kind'], id: string, was: Hash, slot?: string): OwnedText => ({
    kind,
    id,
    was,
    ...(slot !== undefined && slot !== mainSlot && { slot }),
  })
  return [
    ...site.pages.flatMap((page) =>
      textsOfPage(page).map(({ slot, hash }) => ({
        owner: of('page', page.id, hash, slot),
        is: 'html' as const,
      })),
    ),
    ...site.templates.map(({ id, source }) => ({
      owner: of('template', id, source),
      is: 'template' as const,
    })),
    ...site.files.flatMap(({ id, label, hash, sizeBytes }): HeldText[] => {
      const isWords = /\.(?:txt|csv|md)$/i.test(label)
      if (sizeBytes > longest || !(isWords || fileSyntaxOf(label, sizeBytes) !== null)) return []
      return [{ owner: of('file', id, hash), is: isWords ? 'words' : 'source', sizeBytes }]
    }),
  ]
}

/** What is said of the site and of its pages; what is left to the scheme or the label says nothing. */
export function linesSaid(site: Site): SaidLine[] {
  return [
    ...fieldsOfSite.map((field) => ({
      owner: { kind: 'site' as const, field, was: site[field] },
      is: field === 'name' ? ('words' as const) : ('pattern' as const),
    })),
    ...site.pages.flatMap((page) =>
      fieldsOfPage.flatMap((field): SaidLine[] => {
        const was = page[field]
        return was === null ? [] : [{ owner: { kind: 'page', id: page.id, field, was }, is: 'words' }]
      }),
    ),
  ]
}
