import path from 'node:path'
import type { Client, FileInfo } from 'basic-ftp'
import type { ListedFile } from '#core/delivery'
import { listedTime } from './listed-time'
import type { FolderEntry } from './walk'

// What FTP servers tell of files, in either of their ways, as every transport tells it.

/** Whether the host tells facts a machine can read (RFC 3659 §7), times to the second among them. */
export const hasMachineListing = (client: Client): boolean => client.availableListCommands[0] === 'MLSD'

/** The facts of one file as MLST tells them, in the second line of its reply (RFC 3659 §7.2); null where there are none. */
export function factsOf(reply: string): FolderEntry | null {
  const [, line = ''] = reply.split(/\r?\n/)
  const facts = new Map(
    line
      .trim()
      .split(' ', 1)[0]!
      .split(';')
      .map((fact) => [fact.split('=', 1)[0]!.toLowerCase(), fact.slice(fact.indexOf('=') + 1)] as const),
  )
  const time = /^(\d{4})(\d\d)(\d\d)(\d\d)(\d\d)(\d\d)/.exec(facts.get('modify') ?? '')
  const type = facts.get('type')?.toLowerCase()
  if (type === undefined) return null
  const mode = Number.parseInt(facts.get('unix.mode') ?? '', 8)
  return {
    name: '',
    kind: type === 'file' ? 'file' : /^[cp]?dir$/.test(type) ? 'folder' : 'other',
    sizeBytes: Number(facts.get('size') ?? 0),
    modifiedSeconds: time && secondsOf(time.slice(1).map(Number)),
    ...(Number.isInteger(mode) && { mode }),
  }
}

const secondsOf = ([year = 1970, month = 1, day = 1, hour = 0, minute = 0, second = 0]: readonly number[]) =>
  Date.UTC(year, month - 1, day, hour, minute, second) / 1_000

/** What a host says of an entry. */
export function entryOf(file: FileInfo): FolderEntry {
  const rights = file.permissions
  const modifiedMs = file.modifiedAt?.getTime()
  return {
    name: path.posix.basename(file.name),
    kind: file.isDirectory ? 'folder' : file.isFile ? 'file' : 'other',
    sizeBytes: file.size,
    modifiedSeconds:
      modifiedMs === undefined ? listedTime(file.rawModifiedAt, Date.now()) : Math.floor(modifiedMs / 1_000),
    ...(rights && { mode: (rights.user << 6) | (rights.group << 3) | rights.world }),
  }
}

/** A file as the host tells it. */
export type FileThere = ListedFile & Pick<FolderEntry, 'mode'>

/** What is said of the file at a path; null where no file is there. */
export function fileOf(at: string, entry: FolderEntry | null): FileThere | null {
  if (entry?.kind !== 'file') return null
  const { sizeBytes, modifiedSeconds, mode } = entry
  return { path: at, sizeBytes, modifiedSeconds, ...(mode !== undefined && { mode }) }
}
