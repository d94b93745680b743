import { unzipSync, type UnzipFileInfo } from 'fflate'
import { Problem } from '#core/problems'

/** Bytes that are taken out of a document at most: some hundred photographs. */
const mostBytes = 300_000_000

/** What documents of the binary form are, and what is locked with a password: no ZIP ([MS-CFB] §2.2). */
const compound = [0xd0, 0xcf, 0x11, 0xe0]
/** How a ZIP begins (APPNOTE 4.3.7). */
const zip = [0x50, 0x4b]

const begins = (bytes: Uint8Array, mark: readonly number[]) => mark.every((one, at) => bytes[at] === one)

/** Whether bytes begin as documents of the binary form do. */
export const isBinary = (bytes: Uint8Array): boolean => begins(bytes, compound)

/** Parts of a document that is a ZIP, by their paths. */
export type Parts = ReadonlyMap<string, Uint8Array>

/**
 * The parts of a document that are asked for, never more than `mostBytes` of them: each is given the room that the
 * archive says it needs, and what is longer than it says is cut there.
 * @throws Problem `document-locked`, `not-a-document`, `document-too-large`
 */
export function partsOf(bytes: Uint8Array, wants: (path: string) => boolean): Parts {
  if (isBinary(bytes)) throw new Problem('document-locked')
  if (!begins(bytes, zip)) throw new Problem('not-a-document')
  let total = 0
  const filter = ({ name, originalSize }: UnzipFileInfo) => {
    if (!wants(name)) return false
    total += originalSize
    if (total > mostBytes) throw new Problem('document-too-large')
    return true
  }
  try {
    return new Map(Object.entries(unzipSync(bytes, { filter })))
  } catch (error) {
    if (error instanceof Problem) throw error
    throw new Problem('not-a-document', null, { cause: error })
  }
}

const text = new TextDecoder()
/** A part as text; '' where it has none. */
export const textOf = (parts: Parts, path: string): string => text.decode(parts.get(path) ?? new Uint8Array())

/** Whether it keeps its text as OpenDocument does (ISO/IEC 26300, part 2 §3). @throws Problem as `partsOf` does */
export function isOpenDocument(bytes: Uint8Array): boolean {
  let has = false
  partsOf(bytes, (path) => {
    has ||= path === 'content.xml'
    return false
  })
  return has
}
