import { applyEdits, readStyle } from '#core/markup'
import type { Site } from '#core/site'
import { type Finding, findFindings, type FindingSources } from '#core/findings'
import { change, siteFrom, TextStore, write } from './index'

/** What tests of rules are made of: a small site with a text in each page, and ways to it with other templates and styles. */
export const store = new TextStore()
export const plan = siteFrom('Home\n  Birds\n    Terns\n    Gulls\n  Visit', store)
/** Texts, so that no page is empty. */
export const written = ['Home', 'Terns', 'Gulls', 'Visit'].reduce(
  (site, label) => write(site, store, label, `<p>${label}, as they are.</p>`),
  plan,
)

export const sources: FindingSources = {
  textOf: store.textOf,
  factsOf: store.factsOf,
  styleFactsOf: (hash) => readStyle(store.textOf(hash)),
  fileFactsOf: store.fileFactsOf,
  publicAddresses: ['https://saltpan.example/chapel/'],
}
export const by = (rule: string, site: Site, more: Partial<FindingSources> = {}): Finding[] =>
  findFindings(site, { ...sources, ...more }).filter((one) => one.rule === rule)
export const mended = ({ mends: [way] }: Finding) =>
  way && 'edits' in way ? applyEdits(store.textOf(way.was), way.edits) : null
export const withTemplate = (source: string): Site => {
  const [template] = written.templates
  return change(written, store, {
    kind: 'setTemplate',
    templateId: template!.id,
    source: store.put(source),
    was: template!.source,
  })
}
export const withStyle = (css: string): Site => {
  const file = written.files.find(({ kind }) => kind === 'style')!
  const put = { hash: store.put(css), sizeBytes: css.length }
  return change(written, store, { kind: 'setFile', fileId: file.id, ...put, was: file.hash })
}
export const templateOf = (site: Site) => store.textOf(site.templates[0]!.source)
