import type { FileKind, Hash, Output, Scheme, SiteFile, Template } from '#core/site'

/** A template of a kit. Templates of a kit are known by their names, which are unique. */
export interface KitTemplate extends Pick<Template, 'name' | 'source'> {
  /** The name of the template whose slots it fills; null for one that is a whole document. */
  readonly basedOn: string | null
}

/** A style sheet, a script, or a picture that one of those or a template shows. */
export interface KitFile extends Pick<SiteFile, 'label' | 'hash' | 'sizeBytes'> {
  readonly kind: FileKind
  /** Where the kit's scheme puts it, from the top of the site: what its templates refer to. */
  readonly path: string
}

/** What a site begins with before it has pages: scheme, templates, and the files that those need. */
export interface Kit {
  readonly name: string
  /** What it is for, in a sentence or two; '' when its author said nothing. */
  readonly about: string
  readonly scheme: Scheme
  readonly titlePattern: string
  readonly homeTitlePattern: string
  readonly output: Output
  /** Name of the template of pages for which nothing else is said. */
  readonly template: string
  readonly templates: readonly KitTemplate[]
  readonly files: readonly KitFile[]
  /** A picture of a page made with it; null for none. */
  readonly picture: Hash | null
}

/** Hashes of everything a kit holds. */
export const contentsOfKit = ({ templates, files, picture }: Kit): Hash[] => [
  ...templates.map(({ source }) => source),
  ...files.map(({ hash }) => hash),
  ...(picture === null ? [] : [picture]),
]
