import type { Hash } from '#core/site'

/** A delivered file, and what a visitor has to get at its address. */
export interface DeliveredFile {
  readonly path: string
  readonly kind: 'page' | 'file'
  readonly hash: Hash
}

/** What a server answered for an address; null where it did not answer. */
export interface SeenAnswer {
  readonly status: number
  /** Where it leads on to. */
  readonly location: string | null
  readonly contentType: string
  /** Of its body; null where that was not read. */
  readonly hash: Hash | null
}

/** What is otherwise than it was sent: a kind that has one likely reason. */
export type SeenFault =
  'missing' | 'folder' | 'forbidden' | 'moved' | 'fails' | 'silent' | 'as-text' | 'other'

/** What a browser has to be told a file is before it treats it as one (HTML §4.2.4, CSS Syntax §9.1). */
function neededType({ path, kind }: DeliveredFile): RegExp | null {
  if (kind === 'page') return /^(text\/html|application\/xhtml\+xml)\b/i
  if (/\.css$/i.test(path)) return /^text\/css\b/i
  return /\.m?js$/i.test(path) ? /^(text|application)\/(x-)?(java|ecma)script\b/i : null
}

/** Whether a host shows a file to visitors at all: those whose names begin with a dot are its own (but RFC 8615). */
export const isForVisitors = (path: string): boolean =>
  path.split('/').every((name) => !name.startsWith('.') || name === '.well-known')

/**
 * The address of the folder that a file is the home page of, by which visitors come to it; null for any other file.
 * @param homeFile name of home files, such as `index.html`
 */
export const folderOfHome = (path: string, homeFile: string): string | null =>
  path === homeFile || path.endsWith(`/${homeFile}`) ? path.slice(0, -homeFile.length) : null

/**
 * Whether a host leads on from a folder's address without the slash at its end to the one with it; what it gives there
 * otherwise is nothing, or a page whose relative references lead elsewhere. Null where it did not answer.
 * @param folder the address with the slash
 */
export function addsSlash(folder: URL, seen: SeenAnswer | null): boolean | null {
  if (seen === null || seen.status >= 500) return null
  const asked = folder.href.slice(0, -1)
  if (seen.status < 300 || seen.status >= 400 || seen.location === null) return false
  return URL.canParse(seen.location, asked) && new URL(seen.location, asked).pathname === folder.pathname
}

/** What is wrong with how a file is seen; null where it comes as it was sent. */
export function judgeSeen(file: DeliveredFile, seen: SeenAnswer | null): SeenFault | null {
  if (seen === null) return 'silent'
  const { status, contentType, hash } = seen
  if (status === 404 || status === 410) return 'missing'
  if (status === 401 || status === 403) return 'forbidden'
  if (status >= 300 && status < 400 && status !== 304) return 'moved'
  if (status >= 400) return 'fails'
  if (hash !== null && hash !== file.hash) return 'other'
  const needed = neededType(file)
  return needed && !needed.test(contentType) ? 'as-text' : null
}

/** Files that are seen otherwise for one likely reason. */
export interface SeenGroup {
  readonly fault: SeenFault
  /** What a visitor meets, and what is likely to be the matter, as sentences. */
  readonly what: string
  readonly paths: readonly string[]
}

const some = (count: number, one: string, more: string) =>
  count === 1 ? one : `${count.toLocaleString('en')} ${more}`

/** Says of each fault how a visitor meets it, and why it most likely is so. */
const sentences: Readonly<Record<SeenFault, (count: number, isAll: boolean) => string>> = {
  missing: (count, isAll) =>
    isAll
      ? 'Nothing of this site is at its public address. The folder that visitors see is another one, or the address is.'
      : `${some(count, 'One file is', 'files are')} not found by visitors, though sent. The host may tell capitals apart otherwise, or leave out some kinds of files.`,
  folder: (count) =>
    `${some(count, 'One home page is', 'home pages are')} not shown at the address of ${count === 1 ? 'its folder' : 'their folders'}, though sent: the host shows another file there first, or none.`,
  forbidden: (count, isAll) =>
    isAll
      ? 'Visitors may see nothing of this site. Its folder is closed to them: ask the host about its rights.'
      : `Visitors may not see ${some(count, 'one file', 'files')}: the host gives no right to read ${count === 1 ? 'it' : 'them'}.`,
  moved: (count, isAll) =>
    isAll
      ? 'The public address leads on to another one. Write that one, if it is right.'
      : `${some(count, 'One address leads', 'addresses lead')} on to another one.`,
  fails: (count) =>
    `The host fails to show ${some(count, 'one file', 'files')}. A file of its own settings may be wrong (such as .htaccess).`,
  silent: (count, isAll) =>
    isAll
      ? 'Nobody answers at the public address. The name may not lead to this host yet; a new one takes up to two days.'
      : `For ${some(count, 'one file', 'files')} nobody answered in time.`,
  'as-text': (count) =>
    `${some(count, 'One file is', 'files are')} sent as another kind of file, so that browsers show its source or leave it out. The host has to be told what its endings mean.`,
  other: (count) =>
    `Visitors get another ${some(count, 'file', 'files')} than was sent: most likely an older one that a cache keeps for a while, or the host adds something.`,
}

const order: readonly SeenFault[] = [
  'silent',
  'missing',
  'folder',
  'forbidden',
  'fails',
  'moved',
  'as-text',
  'other',
]

/** What is seen otherwise, by its likely reason, what visitors notice most in front. */
export function groupSeen(
  judged: readonly { readonly path: string; readonly fault: SeenFault | null }[],
): SeenGroup[] {
  return order.flatMap((fault) => {
    const paths = judged.filter((one) => one.fault === fault).map(({ path }) => path)
    if (paths.length === 0) return []
    return [{ fault, what: sentences[fault](paths.length, paths.length === judged.length), paths }]
  })
}
