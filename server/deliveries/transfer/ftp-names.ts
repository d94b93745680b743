import { isUtf8 } from 'node:buffer'
import type { Client, FileInfo } from 'basic-ftp'

// FTP hands on names as the bytes that the server has. They go over the wire a letter for each byte, so that a file whose
// name is in the letters of an old system is asked for by the very name it has, as one in UTF-8 is (RFC 2640).

/** A path or a name as it goes over the wire, its letters as bytes in UTF-8. */
export const inBytes = (path: string): string => Buffer.from(path, 'utf8').toString('latin1')

const bytesOf = (wire: string) => Buffer.from(wire, 'latin1')

/** What came over the wire as it is shown; bytes that are no UTF-8 as an address has them (RFC 3986 §2.1). */
export const shown = (wire: string): string =>
  isUtf8(bytesOf(wire))
    ? bytesOf(wire).toString('utf8')
    : wire.replace(/[%\x80-\xff]/g, (byte) => `%${byte.charCodeAt(0).toString(16).toUpperCase()}`)

/** The bytes of a name that `shown` could only show as an address has it. */
const unshown = (name: string): string =>
  name.replace(/%([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))

/** Entries of listings whose names are no UTF-8. */
const odd = new WeakSet<FileInfo>()

/** From here on a client hands on bytes, and its listings tell names as they are shown. */
export function speakBytes(client: Client): void {
  const parse = client.parseList
  client.ftp.encoding = 'latin1'
  client.parseList = (text) => {
    const lines = text.split(/\r?\n/)
    const oddLines = lines.filter((line) => !isUtf8(bytesOf(line))).map(shown)
    const names = new Set(oddLines.length === 0 ? [] : parse(oddLines.join('\n')).map(({ name }) => name))
    const found = parse(lines.map(shown).join('\n'))
    for (const file of found) if (names.has(file.name)) odd.add(file)
    return found
  }
}

/** What the paths of a host are in bytes, where they are not the bytes of what is shown. */
export class WireNames {
  readonly #odd = new Map<string, string>()

  /** A path as it goes over the wire. */
  wireOf = (path: string): string => this.#odd.get(path) ?? inBytes(path)

  /** Notes an entry of a folder where it, or the folder, has a name that is no UTF-8. */
  note(folder: string, entry: FileInfo): void {
    const isOdd = odd.has(entry)
    if (!isOdd && !this.#odd.has(folder)) return
    const name = isOdd ? unshown(entry.name) : inBytes(entry.name)
    this.#odd.set(join(folder, entry.name), join(this.wireOf(folder), name))
  }
}

const join = (folder: string, name: string) => (folder.endsWith('/') ? folder + name : `${folder}/${name}`)
