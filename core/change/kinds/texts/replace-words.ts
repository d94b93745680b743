import { cleanLabel } from '#core/plan'
import { count, type Hash, mainSlot, type Site, slotOf, withSlot } from '#core/site'
import { elsewhere, gone, type Edited } from '../../edited'
import type { ChangeKind } from '../../kind'
import { isForAll } from '../files/set-file'

/** A text of a site, by what holds it. */
export interface OwnedText {
  readonly kind: 'page' | 'template' | 'file'
  readonly id: string
  /** Of a page; the first one where it is missing. */
  readonly slot?: string
  readonly was: Hash
}

/** Puts other words in the place of some, in several texts at once. */
export interface ReplaceWords {
  readonly words: string
  readonly by: string
  readonly texts: readonly (OwnedText & { readonly content: Hash; readonly sizeBytes: number })[]
}

/** Letters of what was looked for that a step of the history shows. */
const mostShown = 40
const shortened = (words: string) => {
  const line = cleanLabel(words)
  return line.length > mostShown ? `${line.slice(0, mostShown).toWellFormed()}…` : line
}

export const replaceWords: ChangeKind<ReplaceWords> = {
  manages: ({ texts }, before) =>
    texts.some(
      ({ kind, id }) =>
        kind === 'template' ||
        (kind === 'file' && before.files.some((file) => file.id === id && isForAll(file.kind))),
    ),
  title: ({ words, texts }) => `replacing “${shortened(words)}” in ${count(texts.length, 'text')}`,
  apply(site, { texts }) {
    const pages = new Map(site.pages.map((page) => [page.id, page]))
    const templates = new Map(site.templates.map((template) => [template.id, template]))
    const files = new Map(site.files.map((file) => [file.id, file]))
    for (const { kind, id, slot = mainSlot, was, content, sizeBytes } of texts) {
      const refused = (what: string, held: Hash): Edited | null =>
        held === was || held === content ? null : elsewhere(what, held)
      const page = kind === 'page' ? pages.get(id) : undefined
      const template = kind === 'template' ? templates.get(id) : undefined
      const file = kind === 'file' ? files.get(id) : undefined
      const holder = page ?? template ?? file
      if (!holder) return gone(kind === 'page' ? 'A page' : kind === 'template' ? 'A template' : 'A file')
      const refusal = page
        ? refused(`The text of “${page.label}”`, slotOf(page, slot))
        : template
          ? refused(`The template “${template.name}”`, template.source)
          : refused(`“${file!.label}”`, file!.hash)
      if (refusal) return refusal
      if (page) pages.set(id, withSlot(page, slot, content))
      if (template) templates.set(id, { ...template, source: content })
      if (file) files.set(id, { ...file, hash: content, sizeBytes })
    }
    const next: Site = {
      ...site,
      pages: [...pages.values()],
      templates: [...templates.values()],
      files: [...files.values()],
    }
    return { site: next }
  },
}
