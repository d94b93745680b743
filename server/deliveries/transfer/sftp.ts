import { randomBytes } from 'node:crypto'
import path from 'node:path'
import pLimit from 'p-limit'
import type { FileEntryWithStats, SFTPWrapper, Stats } from 'ssh2'
import type { HostTraits, ListedFile } from '#core/delivery'
import type { Pieces } from '#server/contents'
import { SshConnection } from './sftp-connection'
import { LearnedTraits } from './learned-traits'
import { MadeFolders } from './made-folders'
import { type Mover, Placing } from './placing'
import {
  mendListing,
  type OnClosed,
  type OnSent,
  partName,
  TransferError,
  type TransferLimits,
  transferLimits,
  type TransferOptions,
  type TransferTarget,
  type Transport,
} from './transport'
import { OnWay } from './on-way'
import { type FolderEntry, namesOfFolders, walkFolders } from './walk'

/** Folders listed at once; listing one by one spends its time waiting. */
const listConcurrency = 16
/**
 * A piece that every server takes in one request: packets of 34,000 bytes (draft-ietf-secsh-filexfer-02 §3), of which the
 * library keeps 2,048. What is larger goes in two, the second when the first is answered.
 */
const pieceBytes = 31_744
/** Pieces of one file on their way to the host at once, and of all that are read on their way from it. */
const pieceConcurrency = 64

/** Status codes of draft-ietf-secsh-filexfer-02 §7. */
const status = { endOfFile: 1, noSuchFile: 2, permissionDenied: 3, failure: 4 }
/** ST_RDONLY in the flags of `statvfs` (POSIX `sys/statvfs.h`). */
const readOnlyFlag = 1
/** S_IFDIR in a mode (POSIX `sys/stat.h`). */
const folderKind = 0o040000

type Act = 'look into' | 'read' | 'write' | 'remove'
type HostError = Error & { code?: number | string }

const entryOf = ({ filename, attrs }: FileEntryWithStats): FolderEntry => ({
  name: filename,
  kind: attrs.isDirectory() ? 'folder' : attrs.isFile() ? 'file' : 'other',
  sizeBytes: attrs.size,
  modifiedSeconds: attrs.mtime,
})

/** Opens an SFTP connection; rejects with a `TransferError` that names the cause. */
export async function openSftp(
  target: TransferTarget,
  { signal, limits = transferLimits }: TransferOptions = {},
): Promise<Transport> {
  const connection = new SshConnection(target.host, target.port, limits, signal)
  try {
    return new SftpTransport(connection, await connection.signIn(target), target, limits)
  } catch (error) {
    connection.close()
    throw error
  }
}

class SftpTransport implements Transport {
  readonly tellsUtc = true
  readonly #folders = new MadeFolders((at, makeAbove) => this.#makeFolder(at, makeAbove))
  readonly #placing: Placing
  readonly #learned: LearnedTraits
  /** However many files are read at once: what hides the way there and back for one does so for all. */
  readonly #reading = pLimit(pieceConcurrency)

  constructor(
    private readonly connection: SshConnection,
    private readonly sftp: SFTPWrapper,
    private readonly target: TransferTarget,
    private readonly limits: TransferLimits,
  ) {
    this.#learned = new LearnedTraits(target.traits)
    const host: Mover = {
      move: (from, to) => this.#move(from, to),
      unlink: (at) => this.#unlink(at),
      isThere: async (at) => (await this.#statOrNull(at)) !== null,
      isOpen: this.#isOpen,
      // OpenSSH's extension; a server without it refuses at once.
      replace: (from, to) =>
        this.#do<void>('write', to, (done) => sftp.ext_openssh_rename(from, to, (error) => done(error))),
    }
    this.#placing = new Placing(host, target.mark, target.traits?.replaces)
  }

  learn(traits: HostTraits): void {
    this.#learned.learn(traits)
  }

  get traits(): HostTraits {
    const { replaces } = this.#placing
    return { ...this.#learned.all, ...(replaces !== undefined && { replaces }) }
  }

  readonly #isOpen = () => this.connection.failure === null

  has = async (relative: string) => (await this.#statOrNull(this.#at(relative))) !== null

  #at(relative: string): string {
    return path.posix.join(this.target.folder || '.', relative)
  }

  /** Asks for one thing; a refusal becomes a sentence about what was to be done to what. */
  async #do<T>(
    act: Act,
    what: string,
    call: (done: (error: Error | null | undefined, value: T) => void) => void,
  ): Promise<T> {
    try {
      return await this.connection.ask(call)
    } catch (error) {
      throw this.#errorOf(error as HostError, act, what)
    }
  }

  #errorOf(error: HostError, act: Act, what: string): TransferError {
    if (error instanceof TransferError) return error
    if (this.connection.failure) return this.connection.failure
    const cause = { cause: error }
    // What was no UTF-8 came as U+FFFD, and cannot be asked for by the name it has.
    if (error.code === status.noSuchFile)
      return new TransferError(what.includes('\ufffd') ? 'odd-name' : 'not-there', { at: what }, cause)
    if (error.code === status.permissionDenied)
      return new TransferError('not-allowed', { act, at: what }, cause)
    // SFTP 3 has no status for a full disk; where the text tells, it is all there is.
    if (/no space|quota|disk full/i.test(error.message)) return this.#diskFull(what, error)
    if (/read-only/i.test(error.message)) return this.#readOnly(what, error)
    // The protocol's bare word for "no" says nothing.
    const said = /^failure\.?$/i.test(error.message.trim()) ? '' : error.message
    return new TransferError('host-refused', { act, at: what, said }, cause)
  }

  #diskFull = (what: string, cause: unknown) => new TransferError('disk-full', { at: what }, { cause })
  #readOnly = (what: string, cause: unknown) => new TransferError('read-only', { at: what }, { cause })

  /** A bare "failure" of a write looked into: the host is asked about the room it has. */
  async #whyNotWritten(error: unknown, at: string): Promise<unknown> {
    if (!(error instanceof TransferError) || error.code !== 'host-refused' || this.connection.failure)
      return error
    const room = await this.connection
      .ask<{ f_bavail: number; f_flag: number }>((done) =>
        this.sftp.ext_openssh_statvfs(path.posix.dirname(at), done as never),
      )
      .catch(() => null)
    if (room && Number(room.f_bavail) === 0) return this.#diskFull(at, error)
    if (room && (Number(room.f_flag) & readOnlyFlag) !== 0) return this.#readOnly(at, error)
    return error
  }

  async list(onClosed?: OnClosed): Promise<ListedFile[]> {
    const root = this.#at('')
    const there = await this.#statOrNull(root)
    if (!there) return []
    if (!there.isDirectory()) throw new TransferError('not-a-folder', { at: root })
    const readFolder = async (folder: string, most: number) =>
      (await this.#readFolder(folder, most)).map(entryOf)
    return walkFolders(root, this.limits, listConcurrency, readFolder, onClosed)
  }

  async folders(at: string): Promise<string[]> {
    return namesOfFolders((await this.#readFolder(at, this.limits.entries)).map(entryOf))
  }

  /** Entries of one folder, read in the host's portions and no further than `most`. */
  async #readFolder(folder: string, most: number): Promise<FileEntryWithStats[]> {
    const at = this.#at(folder)
    const entries: FileEntryWithStats[] = []
    try {
      const handle = await this.#do<Buffer>('look into', at, (done) => this.sftp.opendir(at, done))
      try {
        for (;;) {
          const some = await this.connection
            .ask<FileEntryWithStats[]>((done) => this.sftp.readdir(handle, done))
            .catch((error: HostError) => {
              if (error.code === status.endOfFile) return null
              throw this.#errorOf(error, 'look into', at)
            })
          // A portion of nothing is no way to say that more will come.
          if (some === null || some.length === 0 || entries.length > most) break
          entries.push(...some)
        }
      } finally {
        if (!this.connection.failure)
          await this.connection
            .ask<void>((done) => this.sftp.close(handle, (error) => done(error)))
            .catch(() => {})
      }
      return entries
    } catch (error) {
      // A folder that has gone meanwhile holds nothing.
      if (error instanceof TransferError && error.code === 'not-there') return []
      throw error
    }
  }

  async *read(relative: string, mostBytes: number): AsyncGenerator<Buffer> {
    const at = this.#at(relative)
    const handle = await this.#do<Buffer>('read', at, (done) => this.sftp.open(at, 'r', done))
    try {
      let size = 0
      for (;;) {
        // As many pieces as can still come, at least the one that shows the end.
        const count = Math.min(pieceConcurrency, Math.floor((mostBytes - size) / pieceBytes) + 1)
        const read = await Promise.all(
          Array.from({ length: count }, (_, index) =>
            this.#reading(() => this.#readPiece(handle, at, size + index * pieceBytes)),
          ),
        )
        // What follows a short piece was asked for at the wrong place: it is asked for again.
        const short = read.findIndex((piece) => piece.length < pieceBytes)
        const come = short < 0 ? read : read.slice(0, short + 1)
        size += come.reduce((sum, piece) => sum + piece.length, 0)
        if (size > mostBytes)
          throw new TransferError('too-much', { what: `${at} is larger than the host says it is.` })
        yield* come
        if (come[come.length - 1]!.length === 0) return
      }
    } finally {
      this.#release(handle)
    }
  }

  #readPiece(handle: Buffer, at: string, position: number): Promise<Buffer> {
    const buffer = Buffer.allocUnsafe(pieceBytes)
    return this.connection
      .ask<number>((done) =>
        this.sftp.read(handle, buffer, 0, pieceBytes, position, (error, count) => done(error, count)),
      )
      .then((count) => buffer.subarray(0, count))
      .catch((error: HostError) => {
        if (error.code === status.endOfFile) return Buffer.alloc(0)
        throw this.#errorOf(error, 'read', at)
      })
  }

  /** Closes a handle that was only read from; nobody waits for it. */
  #release(handle: Buffer): void {
    if (!this.connection.failure)
      this.connection.ask<void>((done) => this.sftp.close(handle, (error) => done(error))).catch(() => {})
  }

  async put(relative: string, pieces: Pieces, onSent: OnSent = () => {}): Promise<ListedFile> {
    const at = this.#at(relative)
    let told: Stats | null
    let timed: number | null
    try {
      await this.#folders.want(path.posix.dirname(at))
      const temporary = partName(at, this.target.mark, randomBytes(4).toString('hex'))
      try {
        told = await this.#write(temporary, pieces, onSent)
        if (told) this.#learned.heardTime(told.mtime)
        timed = await this.#learned.giveTime((seconds) => this.#setTime(temporary, seconds), this.#isOpen)
        await this.#placing.place(temporary, at)
      } catch (error) {
        if (!this.connection.failure) await this.#unlink(temporary).catch(() => {})
        throw error
      }
    } catch (error) {
      throw await this.#whyNotWritten(error, at)
    }
    // Renaming changes neither size nor time.
    told ??= await this.#do<Stats>('read', at, (done) => this.sftp.stat(at, done))
    return { path: relative, sizeBytes: told.size, modifiedSeconds: timed ?? told.mtime }
  }

  async setTime(relative: string, seconds: number): Promise<ListedFile> {
    const at = this.#at(relative)
    await this.#setTime(at, seconds)
    const told = await this.#do<Stats>('read', at, (done) => this.sftp.stat(at, done))
    return { path: relative, sizeBytes: told.size, modifiedSeconds: told.mtime }
  }

  #setTime(at: string, seconds: number): Promise<void> {
    return this.#do<void>('write', at, (done) =>
      this.sftp.utimes(at, seconds, seconds, (error) => done(error)),
    )
  }

  /**
   * Writes a file and closes it. What the host makes of it is asked for along with the last stretch: requests for one
   * file are to be done in the order in which they come (draft-ietf-secsh-filexfer-02 §4.1).
   * @returns what the host says of it; null where it answered before all was written, as some do
   */
  async #write(at: string, pieces: Pieces, onSent: OnSent): Promise<Stats | null> {
    const handle = await this.#do<Buffer>('write', at, (done) => this.sftp.open(at, 'w', done))
    let written = 0
    let told: Stats
    // As many requests at once as hide the way there and back, whatever pieces the file comes in.
    const onWay = new OnWay(pieceConcurrency)
    try {
      for await (const piece of pieces) {
        const bytes = Buffer.from(piece.buffer, piece.byteOffset, piece.length)
        for (let from = 0; from < bytes.length; from += pieceBytes) {
          const length = Math.min(pieceBytes, bytes.length - from)
          const place = written + from
          await onWay.add(() =>
            this.#do<void>('write', at, (done) =>
              this.sftp.write(handle, bytes, from, length, place, (error) => done(error)),
            ).then(() => onSent(length)),
          )
        }
        written += bytes.length
      }
      const asked = this.#do<Stats>('write', at, (done) => this.sftp.fstat(handle, done))
      ;[told] = await Promise.all([asked, onWay.ended()])
    } catch (error) {
      this.#release(handle)
      throw error
    }
    await this.#openToVisitors(told.mode, (mode, done) => this.sftp.fsetstat(handle, { mode }, done))
    // Some disks say only here that they are full.
    await this.#do<void>('write', at, (done) => this.sftp.close(handle, (error) => done(error)))
    return told.size === written ? told : null
  }

  /** Gives everybody the right to read where an account keeps what it makes to itself: a host shows no such file. */
  async #openToVisitors(
    mode: number,
    change: (mode: number, done: (error?: Error | null) => void) => void,
  ): Promise<void> {
    const needed = (mode & folderKind) === folderKind ? 0o755 : 0o644
    if ((mode & needed) === needed) return
    // A host that does not let it be changed may show it all the same.
    await this.connection
      .ask<void>((done) => change((mode | needed) & 0o777, (error) => done(error)))
      .catch(() => {
        if (this.connection.failure) throw this.connection.failure
      })
  }

  #move(from: string, to: string): Promise<void> {
    return this.#do<void>('write', to, (done) => this.sftp.rename(from, to, (error) => done(error)))
  }

  #unlink(at: string): Promise<void> {
    return this.#do<void>('remove', at, (done) => this.sftp.unlink(at, (error) => done(error)))
  }

  #statOrNull(at: string): Promise<Stats | null> {
    return this.#do<Stats>('look into', at, (done) => this.sftp.stat(at, done)).catch(
      (error: TransferError) => {
        if (error.code !== 'not-there') throw error
        return null
      },
    )
  }

  async #makeFolder(at: string, makeAbove: () => Promise<void>): Promise<void> {
    const there = await this.#statOrNull(at)
    if (there?.isDirectory()) return
    if (there) throw new TransferError('not-a-folder', { at })
    await makeAbove()
    await this.#do<void>('write', at, (done) => this.sftp.mkdir(at, (error) => done(error)))
    const made = await this.#statOrNull(at)
    if (made) await this.#openToVisitors(made.mode, (mode, done) => this.sftp.chmod(at, mode, done))
  }

  async remove(relative: string): Promise<void> {
    await this.#unlink(this.#at(relative)).catch((error: TransferError) => {
      if (error.code !== 'not-there') throw error
    })
  }

  mend(listed: readonly ListedFile[]): Promise<ListedFile[]> {
    return mendListing(this, listed, this.target.mark, (from, to) => this.#move(this.#at(from), this.#at(to)))
  }

  async close(): Promise<void> {
    this.connection.close()
  }
}
