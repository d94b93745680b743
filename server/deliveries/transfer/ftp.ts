import { randomBytes } from 'node:crypto'
import path from 'node:path'
import { PassThrough } from 'node:stream'
import { type Client, FTPError } from 'basic-ftp'
import type { HostTraits, ListedFile } from '#core/delivery'
import type { Pieces } from '#server/contents'
import { FtpAttributes } from './ftp-attributes'
import { type FtpSecurity, unreachable, whyEnded } from './ftp-connection'
import { FtpConnections, mostConnections } from './ftp-connections'
import { entryOf, factsOf, fileOf, type FileThere, hasMachineListing } from './ftp-entries'
import { type Act, refusalOf } from './ftp-refusals'
import { shown, WireNames } from './ftp-names'
import { sendTogether } from './ftp-together'
import { PiecesError, uploadOver } from './ftp-upload'
import { LearnedTraits } from './learned-traits'
import { MadeFolders } from './made-folders'
import { type Mover, Placing } from './placing'
import {
  mendListing,
  type OnClosed,
  type OnSent,
  type OpenTransport,
  partName,
  TransferError,
  type TransferLimits,
  transferLimits,
  type TransferTarget,
  type Transport,
} from './transport'
import { type FolderEntry, namesOfFolders, walkFolders } from './walk'

/** What ends a command (RFC 959 §5.3), or a name. */
const endsLine = /[\r\n\0]/

/** Opens FTP with the security that its protocol has; rejects with a `TransferError` that names the cause. */
export const openFtp =
  (security: FtpSecurity): OpenTransport =>
  async (target, { signal, limits = transferLimits } = {}) => {
    const place = { host: target.host, port: target.port, security }
    if ([target.account, target.password, target.folder].some((said) => endsLine.test(said)))
      throw new TransferError('wrong-host-password', { host: target.host })
    const pool = new FtpConnections(place, target, limits, signal)
    try {
      const { first, pipelines } = await pool.openFirst()
      const home = shown(await first.pwd())
      pool.giveBack(first)
      const root = path.posix.join(home, target.folder || '.')
      const tellsUtc = hasMachineListing(first)
      return new FtpTransport(pool, root, target, limits, home, pipelines, tellsUtc)
    } catch (error) {
      const reason = pool.failure ?? (error instanceof TransferError ? error : unreachable(place, error))
      pool.close()
      throw reason
    }
  }

class FtpTransport implements Transport {
  readonly #folders: MadeFolders
  readonly #placing: Placing
  readonly #names = new WireNames()
  readonly #attributes: FtpAttributes
  readonly #learned: LearnedTraits

  constructor(
    private readonly pool: FtpConnections,
    private readonly root: string,
    private readonly target: TransferTarget,
    private readonly limits: TransferLimits,
    home: string,
    private readonly pipelines: boolean,
    readonly tellsUtc: boolean,
  ) {
    this.#folders = new MadeFolders(
      (at, makeAbove) => this.#makeFolder(at, makeAbove),
      // An account's own folder is there, whatever it may see above it.
      (at) => at === home,
    )
    this.#learned = new LearnedTraits(target.traits)
    const host: Mover = {
      move: async (from, to) =>
        void (await this.#ask('write', to, (client, wire) => client.rename(this.#names.wireOf(from), wire))),
      unlink: async (at) => void (await this.#ask('remove', at, (client, wire) => client.remove(wire))),
      isThere: async (at) => (await this.#fileAt(at)) !== null,
      isOpen: this.#isOpen,
    }
    this.#placing = new Placing(host, target.mark, target.traits?.replaces)
    const send = (at: string, command: (wire: string) => string) =>
      this.#ask('write', at, (client, wire) => client.send(command(wire)))
    this.#attributes = new FtpAttributes(send, this.#isOpen, target.traits?.opens === false)
  }

  learn(traits: HostTraits): void {
    this.#learned.learn(traits)
  }

  get traits(): HostTraits {
    const { replaces } = this.#placing
    const connections = this.pool.taken
    return {
      ...this.#learned.all,
      ...(replaces !== undefined && { replaces }),
      ...(this.#attributes.keeps && { opens: false }),
      ...(!this.pipelines && { pipelines: false }),
      ...(connections !== undefined && { connections }),
    }
  }

  readonly #isOpen = () => this.pool.failure === null

  has = async (relative: string) => (await this.#fileAt(this.#at(relative))) !== null

  /** A path as the host takes it. A line's end in it would begin another command. */
  #at = (relative: string): string => {
    const at = path.posix.join(this.root, relative)
    if (endsLine.test(at)) throw new TransferError('not-allowed', { act: 'use', at: JSON.stringify(at) })
    return at
  }

  /** Does one thing over a connection of its own; a refusal becomes a sentence about what was to be done to what. */
  async #ask<T>(act: Act, what: string, work: (client: Client, wire: string) => Promise<T>): Promise<T> {
    const client = await this.pool.take()
    const timer = setTimeout(() => this.pool.fail(this.#silent()), this.limits.requestMs)
    try {
      return await work(client, this.#names.wireOf(what))
    } catch (error) {
      throw this.#errorOf(error, act, what)
    } finally {
      clearTimeout(timer)
      this.pool.giveBack(client)
    }
  }

  #silent = () => new TransferError('timeout', { host: this.target.host })

  #errorOf(error: unknown, act: Act, what: string): TransferError {
    const { failure } = this.pool
    if (failure) return failure
    if (error instanceof TransferError) return error
    if (error instanceof FTPError && error.code !== 421) return refusalOf(error, act, what)
    const { message } = error as Error
    // What pieces of a file could not be got from is no fault of the line.
    const lost = /timeout/i.test(message)
      ? this.#silent()
      : new TransferError('connection-lost', { host: this.target.host, when: 'was lost' }, { cause: error })
    this.pool.fail(lost)
    return lost
  }

  /** What ended a transfer: what the host says of it, where its data connection was all that ended. */
  async #endOf(client: Client, error: unknown, act: Act, what: string): Promise<TransferError> {
    const said = error instanceof Error && !(error instanceof FTPError) ? await whyEnded(client) : null
    return this.#errorOf(said ?? error, act, what)
  }

  async list(onClosed?: OnClosed): Promise<ListedFile[]> {
    const isFolder = await this.#ask('look into', this.root, (client, wire) => client.cd(wire)).then(
      () => true,
      async (error: TransferError) => {
        if (this.pool.failure || error.code === 'not-allowed') throw error
        if (await this.#fileAt(this.root)) throw new TransferError('not-a-folder', { at: this.root })
        return false
      },
    )
    if (!isFolder) return []
    const readFolder = (folder: string) => this.#readFolder(this.#at(folder.replace(/\/$/, '')))
    return walkFolders(this.root, this.limits, mostConnections, readFolder, onClosed)
  }

  async folders(at: string): Promise<string[]> {
    return namesOfFolders(await this.#readFolder(this.#at(at)))
  }

  async #readFolder(at: string): Promise<FolderEntry[]> {
    try {
      const found = await this.#ask('look into', at, async (client, wire) => {
        if (hasMachineListing(client)) return client.list(wire)
        // Old servers take a space in a name for the end of it; the folder one stands in has no name.
        await client.cd(wire)
        return client.list()
      })
      for (const entry of found) this.#names.note(at, entry)
      return found.map(entryOf)
    } catch (error) {
      if (!(error instanceof TransferError)) throw error
      // A folder that has gone meanwhile holds nothing; some hosts say no more than no.
      if (error.code === 'not-there') return []
      if (error.code !== 'host-refused') throw error
      if (!(await this.#isListed(at))) return []
      // It is there, and is not shown.
      throw new TransferError('not-allowed', { act: 'look into', at }, { cause: error })
    }
  }

  /** Whether something stands in the folder above it: asked where a host refuses without a reason. */
  async #isListed(at: string): Promise<boolean> {
    if (at === '/' || at === this.root || this.pool.failure) return true
    const above = await this.#readFolder(path.posix.dirname(at))
    return above.some(({ name }) => name === path.posix.basename(at))
  }

  /** A file as the host tells it; null where none is. The same words as in a listing, so that both can be compared. */
  async #fileAt(at: string): Promise<FileThere | null> {
    try {
      const one = await this.#ask('look into', at, async (client, wire) => {
        if (hasMachineListing(client)) return factsOf((await client.send(`MLST ${wire}`)).message)
        const found = await client.list(wire)
        return found.length === 1 ? entryOf(found[0]!) : null
      })
      return fileOf(at, one)
    } catch (error) {
      if (this.pool.failure) throw this.pool.failure
      if (error instanceof TransferError && error.code !== 'not-allowed') return null
      throw error
    }
  }

  async *read(relative: string, mostBytes: number): AsyncGenerator<Buffer> {
    const at = this.#at(relative)
    const client = await this.pool.take()
    const pieces = new PassThrough()
    let failure: TransferError | null = null
    const done = client.downloadTo(pieces, this.#names.wireOf(at)).then(
      () => true,
      async (error: unknown) => {
        const isOurs = pieces.destroyed && !(error instanceof FTPError)
        failure = isOurs ? null : await this.#endOf(client, error, 'read', at)
        pieces.destroy()
        return false
      },
    )
    let isWhole = false
    try {
      let size = 0
      for await (const piece of pieces as AsyncIterable<Buffer>) {
        size += piece.length
        if (size > mostBytes)
          throw new TransferError('too-much', { what: `${at} is larger than the host says it is.` })
        yield piece
      }
      isWhole = await done
    } catch (error) {
      throw failure ?? error
    } finally {
      // A transfer that nobody waits for any more is ended with its connection.
      if (isWhole || failure) this.pool.giveBack(client)
      else this.pool.drop(client)
    }
    if (failure) throw await this.#whyNotRead(failure, at)
  }

  /** A bare refusal of a file looked into: most often it is not there. */
  async #whyNotRead(error: TransferError, at: string): Promise<TransferError> {
    if (error.code !== 'host-refused' || this.pool.failure || (await this.#fileAt(at))) return error
    return new TransferError('not-there', { at }, { cause: error })
  }

  async put(relative: string, pieces: Pieces, onSent: OnSent = () => {}): Promise<ListedFile> {
    const at = this.#at(relative)
    await this.#folders.want(path.posix.dirname(at))
    const temporary = partName(at, this.target.mark, randomBytes(4).toString('hex'))
    let seen: FileThere | null = null
    let isTimed = false
    const moveAndLook = async (from: string, to: string) => {
      seen = await this.#moveAndLook(from, to)
    }
    try {
      await this.#write(temporary, pieces, at, onSent)
      await this.#attributes.openFile(temporary)
      const setTime = (seconds: number) => this.#attributes.setTime(temporary, seconds)
      isTimed = (await this.#learned.giveTime(setTime, this.#isOpen)) !== null
      await this.#placing.place(temporary, at, this.pipelines ? moveAndLook : undefined)
    } catch (error) {
      if (!this.pool.failure)
        await this.#ask('remove', temporary, (client, wire) => client.remove(wire)).catch(() => {})
      throw error
    }
    const there = seen ?? (await this.#fileAt(at))
    if (!there) throw new TransferError('not-there', { at })
    const { sizeBytes, modifiedSeconds, mode = 0o644 } = there
    if ((mode & 0o444) !== 0o444) await this.#attributes.learnToOpen(at)
    if (this.tellsUtc && !isTimed) this.#learned.heardTime(modifiedSeconds)
    return { path: relative, sizeBytes, modifiedSeconds }
  }

  /**
   * Renames, and asks in the same breath what the host makes of it.
   * @returns what the host says; null where it has no machine's listing
   */
  #moveAndLook(from: string, to: string): Promise<FileThere | null> {
    return this.#ask('write', to, async (client, wire) => {
      const look = hasMachineListing(client) ? [`MLST ${wire}`] : []
      const commands = [`RNFR ${this.#names.wireOf(from)}`, `RNTO ${wire}`, ...look]
      const [source, target, facts] = await sendTogether(client, commands)
      // What follows a refusal is refused for its sake alone.
      if (source instanceof FTPError) throw source
      if (target instanceof FTPError) throw target
      return facts && !(facts instanceof FTPError) ? fileOf(to, factsOf(facts.message)) : null
    })
  }

  async setTime(relative: string, seconds: number): Promise<ListedFile> {
    const at = this.#at(relative)
    await this.#attributes.setTime(at, seconds)
    const there = await this.#fileAt(at)
    if (!there) throw new TransferError('not-there', { at })
    return { path: relative, sizeBytes: there.sizeBytes, modifiedSeconds: there.modifiedSeconds }
  }

  /** @param at what the file is called when something is wrong with it */
  async #write(to: string, pieces: Pieces, at: string, onSent: OnSent): Promise<void> {
    const client = await this.pool.take()
    try {
      await uploadOver(client, this.#names.wireOf(to), pieces, {
        stretchMs: this.limits.requestMs,
        onHang: () => this.pool.fail(this.#silent()),
        onSent,
      })
      this.pool.giveBack(client)
    } catch (error) {
      if (error instanceof PiecesError) {
        this.pool.drop(client)
        throw error.cause
      }
      const told = await this.#endOf(client, error, 'write', at)
      this.pool.giveBack(client)
      throw told
    }
  }

  async #makeFolder(at: string, makeAbove: () => Promise<void>): Promise<void> {
    const isThere = await this.#ask('look into', at, (client, wire) => client.cd(wire)).then(
      () => true,
      (error: TransferError) => {
        if (this.pool.failure) throw error
        return false
      },
    )
    if (isThere) return
    if (await this.#fileAt(at)) throw new TransferError('not-a-folder', { at })
    await makeAbove()
    await this.#ask('write', at, (client, wire) => client.send(`MKD ${wire}`))
    await this.#attributes.madeFolder(at)
  }

  async remove(relative: string): Promise<void> {
    const at = this.#at(relative)
    await this.#ask('remove', at, (client, wire) => client.remove(wire)).catch(
      async (error: TransferError) => {
        if (error.code === 'not-there') return
        // Some hosts say no more than no.
        if (this.pool.failure || error.code !== 'host-refused' || (await this.#fileAt(at))) throw error
      },
    )
  }

  mend(listed: readonly ListedFile[]): Promise<ListedFile[]> {
    return mendListing(this, listed, this.target.mark, async (from, to) => {
      const [here, there] = [this.#at(from), this.#at(to)]
      await this.#ask('write', there, (client, wire) => client.rename(this.#names.wireOf(here), wire))
    })
  }

  async close(): Promise<void> {
    this.pool.close()
  }
}
