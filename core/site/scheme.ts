/** Which folder of the scheme a file goes to. */
export type FileKind = 'image' | 'style' | 'script' | 'document' | 'other'

/** How pages are spread over folders. */
export type Arrangement =
  /** Every page beside the home page. */
  | { readonly kind: 'together' }
  /** A page with pages under it has a folder; the page is that folder's home, or stands beside it. */
  | { readonly kind: 'sections'; readonly sectionPage: 'inside' | 'beside' }
  /** The home page at the top, all others in one folder of this name. */
  | { readonly kind: 'one-folder'; readonly folder: string }
  /** Each page is the home file of a folder of its own, so that addresses end in `/`. */
  | { readonly kind: 'folder-a-page' }

/** The rules that turn a page's label into its folder and file name. */
export interface Scheme {
  readonly letterCase: 'lower' | 'as-typed'
  readonly gap: '-' | '_' | ''
  /** Letters outside ASCII: spelled in ASCII, or kept (in Unicode form NFC). */
  readonly letters: 'ascii' | 'kept'
  /** Words that are left out, in lower case. */
  readonly leaveOut: readonly string[]
  /** Words written shorter, in lower case. */
  readonly shortForms: readonly { readonly word: string; readonly short: string }[]
  /** Longest name in characters, without folder and extension. */
  readonly longest: number
  readonly extension: '.html' | '.htm'
  /** The file a server looks for in a folder, without extension. */
  readonly homeName: string
  readonly arrangement: Arrangement
  /** Whether names begin with the page's number among its siblings. */
  readonly numbered: boolean
  /** Folder for each kind of file, from the top of the site; '' means the top itself. */
  readonly folders: Readonly<Record<FileKind, string>>
}

/** The scheme a new site starts with: safe on every kind of host. */
export const defaultScheme: Scheme = {
  letterCase: 'lower',
  gap: '-',
  letters: 'ascii',
  leaveOut: [],
  shortForms: [],
  longest: 26,
  extension: '.html',
  homeName: 'index',
  arrangement: { kind: 'sections', sectionPage: 'inside' },
  numbered: false,
  folders: { image: 'images', style: 'styles', script: 'scripts', document: 'documents', other: 'files' },
}
