import { cleanLabel } from '#core/plan'
import { count, type Hash, mainSlot, type Site, slotOf, withSlot } from '#core/site'
import { elsewhere, gone, type Edited } from '../../edited'
import type { ChangeKind } from '../../kind'
import { isForAll } from '../files/set-file'
import type { OwnedText } from './words-owner'
import { type SetPageText, withPageText } from '../page/set-page-text'
import { type SetSetting, setSetting } from '../skeleton/set-setting'

/** Puts other words in the place of some, in several texts at once, and in what is said of pages and of the whole site. */
export interface ReplaceWords {
  readonly words: string
  readonly by: string
  readonly texts: readonly (OwnedText & { readonly content: Hash; readonly sizeBytes: number })[]
  readonly ofPages: readonly SetPageText[]
  readonly ofSite: readonly SetSetting[]
}

/** Letters that a sentence shows of words that may be many. */
const mostShown = 40
/** The beginning of some words, on one line, for a sentence about them. */
export const shortened = (words: string) => {
  const line = cleanLabel(words)
  return line.length > mostShown ? `${line.slice(0, mostShown).toWellFormed()}…` : line
}

export const replaceWords: ChangeKind<ReplaceWords> = {
  manages: ({ texts, ofSite }, before) =>
    ofSite.length > 0 ||
    texts.some(
      ({ kind, id }) =>
        kind === 'template' ||
        (kind === 'file' && before.files.some((file) => file.id === id && isForAll(file.kind))),
    ),
  title: ({ words, texts, ofPages, ofSite }) =>
    `replacing “${shortened(words)}” in ${count(texts.length + ofPages.length + ofSite.length, 'place')}`,
  apply(site, { texts, ofPages, ofSite }) {
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
    for (const said of ofPages) {
      const page = pages.get(said.pageId)
      const next = page && withPageText(site, page, said)
      if (!next) return gone('A page')
      if ('refusal' in next) return next
      pages.set(said.pageId, next)
    }
    let settings = site
    for (const setting of ofSite) {
      const edited = setSetting.apply(settings, setting)
      if ('refusal' in edited) return edited
      settings = edited.site
    }
    const next: Site = {
      ...settings,
      pages: [...pages.values()],
      templates: [...templates.values()],
      files: [...files.values()],
    }
    return { site: next }
  },
}
