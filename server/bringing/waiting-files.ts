import { isPageName, type Remark } from '#core/bringing'
import { fileSyntaxOf } from '#core/markup'
import { getBlobs, getFronts } from '#server/contents'
import { pool } from '#server/platform'
import { fileKindOf, tellingBytes } from '#server/sites'
import { listWaiting, type WaitingFile } from './bringing-rows'
import type { FileToRead } from './brought-file'

/** Texts that are read: pages and style sheets, in bytes of each. */
const longestText = 4_000_000
/** Files that are read at a time, and bytes of those that have texts. */
const filesAtOnce = 100
const bytesAtOnce = 4_000_000

const isTooLong = ({ path, sizeBytes }: WaitingFile) => isPageName(path) && sizeBytes > longestText

/** What waits: how much of it is to be read, and what is told of it before that. */
export interface Waiting {
  readonly paths: readonly string[]
  /** Bytes of pages. */
  readonly pageBytes: number
  readonly remarks: readonly Remark[]
  readonly portions: () => AsyncIterable<readonly FileToRead[]>
}

/** The files that wait, some at a time: nobody holds them all. */
export async function readWaiting(id: string): Promise<Waiting> {
  const waiting = await listWaiting(pool(), id)
  const pages = waiting.filter((file) => isPageName(file.path) && !isTooLong(file))
  return {
    paths: waiting.map(({ path }) => path),
    pageBytes: pages.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
    remarks: waiting.filter(isTooLong).map(({ path }) => {
      return { path, why: 'It is larger than a page may be, so it stays a file as it is.' }
    }),
    portions: () => portionsOf(waiting),
  }
}

async function* portionsOf(waiting: readonly WaitingFile[]): AsyncGenerator<readonly FileToRead[]> {
  let some: WaitingFile[] = []
  let bytes = 0
  for (const file of waiting) {
    if (some.length >= filesAtOnce || bytes > bytesAtOnce) {
      yield await read(some)
      ;[some, bytes] = [[], 0]
    }
    some.push(file)
    if (file.sizeBytes <= longestText) bytes += file.sizeBytes
  }
  yield await read(some)
}

async function read(files: readonly WaitingFile[]): Promise<FileToRead[]> {
  const isPage = (file: WaitingFile) => isPageName(file.path) && !isTooLong(file)
  const fronts = await getFronts(
    pool(),
    files.filter((file) => !isPage(file)).map(({ hash }) => hash),
    tellingBytes,
  )
  const told = await Promise.all(
    files.map(async (file) => {
      if (isPage(file)) return { ...file, kind: 'page' as const }
      const { kind } = await fileKindOf(file.path, fronts.get(file.hash) ?? Buffer.alloc(0))
      return { ...file, kind }
    }),
  )
  const hasText = ({ kind, path, sizeBytes }: (typeof told)[number]) =>
    kind === 'page' ||
    (sizeBytes <= longestText && (kind === 'style' || fileSyntaxOf(path, sizeBytes) !== null))
  const contents = await getBlobs(
    pool(),
    told.filter(hasText).map(({ hash }) => hash),
  )
  return told.map((file) => ({
    ...file,
    bytes: hasText(file) ? (contents.get(file.hash) ?? Buffer.alloc(0)) : null,
  }))
}
