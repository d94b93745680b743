import { nameLabel, namesOf } from '#core/naming'
import { outlineOfSite, writePlan } from '#core/plan'
import {
  defaultScheme,
  emptyHash,
  type FileKind,
  type Hash,
  type Page,
  type Site,
  type SiteFile,
  textsOfPage,
} from '#core/site'

/** What tells of a site where it is files; its layout is in docs/formats.md. */
export const manifestName = 'site.json'
export const format = 'site archive'
export const version = 1

/** A page as the manifest has it: with where its texts stand, not with what is in them. */
export interface ArchivedPage extends Omit<Page, 'content' | 'slots' | 'addresses' | 'translatedFrom'> {
  readonly addresses: readonly string[]
  /** Files of the archive by slot; one that says nothing has none. */
  readonly texts: Readonly<Record<string, string>>
  /** What the page that it is a translation of held when they said the same. */
  readonly translatedFrom?: { readonly ofId: string; readonly texts: Readonly<Record<string, string>> }
}
export interface ArchivedFile extends Omit<SiteFile, 'hash' | 'sizeBytes'> {
  readonly kind: FileKind
  readonly file: string
}
export interface ArchivedTemplate {
  readonly id: string
  readonly name: string
  readonly basedOn: string | null
  readonly file: string
}

/** An earlier version of a text. */
export interface ArchivedVersion {
  readonly of: 'content' | 'template' | 'file'
  readonly id: string
  readonly slot: string | null
  readonly file: string
  /** ISO 8601; until when it was the text. */
  readonly until: string
  readonly by: string | null
}

/** A note with its answers. */
export interface ArchivedNote {
  readonly pageId: string | null
  readonly place: { readonly tag: string; readonly nth: number; readonly quote: string } | null
  readonly author: string
  readonly text: string
  readonly madeAt: string
  readonly settled: { readonly at: string; readonly by: string; readonly with: string | null } | null
  readonly answers: readonly { readonly author: string; readonly text: string; readonly madeAt: string }[]
}

export interface Manifest extends Omit<Site, 'id' | 'pages' | 'files' | 'templates'> {
  readonly format: typeof format
  readonly version: typeof version
  readonly templates: readonly ArchivedTemplate[]
  readonly pages: readonly ArchivedPage[]
  readonly files: readonly ArchivedFile[]
  readonly versions: readonly ArchivedVersion[]
  readonly notes: readonly ArchivedNote[]
}

/** Hands each name out once; the second of one gets a number before its extension. */
function namer(): (name: string) => string {
  const taken = new Set<string>()
  return (name) => {
    const dot = name.lastIndexOf('.')
    const [stem, extension] = dot > name.lastIndexOf('/') ? [name.slice(0, dot), name.slice(dot)] : [name, '']
    let free = name
    // On disks that do not tell case apart, too.
    for (let nth = 2; taken.has(free.toLowerCase()); nth++) free = `${stem}-${nth}${extension}`
    taken.add(free.toLowerCase())
    return free
  }
}

const plainName = (words: string) => nameLabel(words, defaultScheme, 'en').name || 'unnamed'

/** What an earlier version is named by. */
export interface VersionToKeep extends Omit<ArchivedVersion, 'file'> {
  readonly hash: Hash
}

/** A site as files: what its manifest says, its plan as text, and the content of every other file by its path. */
export function layOut(
  site: Site,
  versions: readonly VersionToKeep[],
  notes: readonly ArchivedNote[],
): { manifest: string; plan: string; contents: Map<string, Hash> } {
  const names = namesOf(site)
  const nameIt = namer()
  const contents = new Map<string, Hash>()
  const keep = (name: string, hash: Hash): string => {
    const path = nameIt(name)
    contents.set(path, hash)
    return path
  }
  for (const reserved of [manifestName, 'plan.txt']) nameIt(reserved)
  const templates = site.templates.map(({ id, name, basedOn, source }) => ({
    id,
    name,
    basedOn,
    file: keep(`templates/${plainName(name)}.html`, source),
  }))
  const pages = site.pages.map(({ content, slots, translatedFrom, ...page }): ArchivedPage => {
    const path = names.pages.get(page.id)?.path ?? `${plainName(page.label)}.html`
    const keepTexts = (folder: string, held: Pick<Page, 'content' | 'slots'>) =>
      Object.fromEntries(
        textsOfPage(held)
          .filter(({ hash }) => hash !== emptyHash)
          .map(({ slot, hash }) => [slot, keep(`${folder}/${plainName(slot)}/${path}`, hash)]),
      )
    const texts = keepTexts('pages', { content, slots })
    if (!translatedFrom) return { ...page, texts }
    const { ofId } = translatedFrom
    return { ...page, texts, translatedFrom: { ofId, texts: keepTexts('translated-from', translatedFrom) } }
  })
  const files = site.files.map(({ id, kind, label, seq, hash }): ArchivedFile => ({
    id,
    kind,
    label,
    seq,
    file: keep(`files/${names.files.get(id) ?? label}`, hash),
  }))
  const endings = { content: '.html', template: '.html', file: '.css' }
  const kept = versions.map(({ hash, ...version }): ArchivedVersion => {
    const day = version.until.slice(0, 16).replace(/[T:]/g, '-')
    return { ...version, file: keep(`versions/${version.id}/${day}${endings[version.of]}`, hash) }
  })
  const { id: _id, ...settings } = site
  const said: Manifest = { format, version, ...settings, templates, pages, files, versions: kept, notes }
  return {
    manifest: `${JSON.stringify(said, null, 2)}\n`,
    plan: writePlan('text', outlineOfSite(site), site.name).text,
    contents,
  }
}
