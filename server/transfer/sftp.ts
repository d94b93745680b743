import { createHash, randomBytes } from 'node:crypto'
import path from 'node:path'
import { promisify } from 'node:util'
import ssh2, { type FileEntryWithStats, type SFTPWrapper, type Stats } from 'ssh2'
import type { ListedFile } from '#core/delivery'
import { temporarySuffix, TransferError, type TransferTarget, type Transport } from './transport'

const connectTimeoutMs = 10_000
/** Silence after which a connection counts as lost. */
const keepaliveMs = 5_000
/** Folders listed at once; listing one by one spends its time waiting. */
const listConcurrency = 16

const status = { noSuchFile: 2, permissionDenied: 3, failure: 4 }

/** SHA-256 of a host key in the form OpenSSH shows (`SHA256:` and base64 without padding). */
export const fingerprint = (key: Buffer): string =>
  `SHA256:${createHash('sha256').update(key).digest('base64').replace(/=+$/, '')}`

function connectError(
  error: NodeJS.ErrnoException & { level?: string },
  target: TransferTarget,
): TransferError {
  const where = `${target.host}, port ${target.port}`
  const as = (code: TransferError['code'], message: string) =>
    new TransferError(code, message, { cause: error })
  if (error.level === 'client-authentication')
    return as('wrong-password', `${target.host} does not accept this account and password.`)
  if (error.level === 'client-timeout' || error.code === 'ETIMEDOUT')
    return as('timeout', `${where} does not answer. Check the host’s name and the port.`)
  if (error.code === 'ECONNREFUSED')
    return as('refused', `Nothing accepts SFTP at ${where}. Check the port, or ask the host.`)
  if (error.code === 'ENOTFOUND' || error.code === 'EAI_AGAIN')
    return as('not-found', `No computer called ${target.host} could be found. Check the spelling.`)
  if (error.code === 'ECONNRESET' || error.code === 'EPIPE')
    return as('connection-lost', `The connection to ${target.host} was cut.`)
  return as('other', `${where} could not be reached: ${error.message}.`)
}

/** Opens an SFTP connection; rejects with a `TransferError` that names the cause. */
export async function openSftp(target: TransferTarget): Promise<Transport> {
  const client = new ssh2.Client()
  let hostKey = ''
  await new Promise<void>((resolve, reject) => {
    client.once('ready', resolve)
    client.once('error', (error) =>
      reject(
        hostKey !== '' && target.hostKey !== null && hostKey !== target.hostKey
          ? new TransferError(
              'host-key-changed',
              `${target.host} shows another key than before (${hostKey}). Somebody may stand between; ask the host before you go on.`,
            )
          : connectError(error, target),
      ),
    )
    client.once('close', () =>
      reject(new TransferError('connection-lost', `${target.host} closed the connection.`)),
    )
    client.connect({
      host: target.host,
      port: target.port,
      username: target.account,
      password: target.password,
      readyTimeout: connectTimeoutMs,
      keepaliveInterval: keepaliveMs,
      keepaliveCountMax: 3,
      hostVerifier: (key: Buffer) => {
        hostKey = fingerprint(key)
        return target.hostKey === null || hostKey === target.hostKey
      },
    })
  })
  client.setNoDelay(true)
  const sftp = await promisify<SFTPWrapper>((done) =>
    client.sftp((error, wrapper) => done(error ?? null, wrapper)),
  )().catch((error: Error) => {
    client.end()
    throw new TransferError('other', `${target.host} offers no SFTP on this account.`, { cause: error })
  })
  return new SftpTransport(client, sftp, target, hostKey)
}

class SftpTransport implements Transport {
  readonly #lost: Promise<never>
  #isLost = false
  readonly #folders = new Map<string, Promise<void>>()

  constructor(
    private readonly client: ssh2.Client,
    private readonly sftp: SFTPWrapper,
    private readonly target: TransferTarget,
    readonly hostKey: string,
  ) {
    this.#lost = new Promise((_, reject) => {
      const lose = () => {
        this.#isLost = true
        reject(new TransferError('connection-lost', `The connection to ${target.host} was lost.`))
      }
      client.once('close', lose)
      client.once('error', lose)
      client.on('error', () => {})
    })
    this.#lost.catch(() => {})
  }

  #at(relative: string): string {
    return path.posix.join(this.target.folder || '.', relative)
  }

  /** Runs one request. A request whose connection goes away never answers, so the loss is raced. */
  async #do<T>(
    what: string,
    call: (done: (error: Error | null | undefined, value: T) => void) => void,
  ): Promise<T> {
    const request = new Promise<T>((resolve, reject) => {
      if (this.#isLost) return
      try {
        call((error, value) => (error ? reject(error) : resolve(value)))
      } catch (error) {
        reject(error as Error)
      }
    })
    try {
      return await Promise.race([request, this.#lost])
    } catch (error) {
      throw this.#errorOf(error as Error & { code?: number | string }, what)
    }
  }

  #errorOf(error: Error & { code?: number | string }, what: string): TransferError {
    if (error instanceof TransferError) return error
    const as = (code: TransferError['code'], message: string) =>
      new TransferError(code, message, { cause: error })
    if (this.#isLost || /not connected|no response from server|channel closed/i.test(error.message))
      return as('connection-lost', `The connection to ${this.target.host} was lost.`)
    if (error.code === status.noSuchFile) return as('no-folder', `${what} is not there.`)
    if (error.code === status.permissionDenied)
      return as('not-allowed', `This account may not write ${what}.`)
    // SFTP 3 has no status for a full disk; the text is all there is.
    if (/no space|quota|disk full/i.test(error.message))
      return as('disk-full', `The host’s disk is full (at ${what}).`)
    return as('other', `The host refused ${what}: ${error.message}.`)
  }

  async list(): Promise<ListedFile[]> {
    const files: ListedFile[] = []
    let folders = ['']
    while (folders.length > 0) {
      const next: string[] = []
      for (let at = 0; at < folders.length; at += listConcurrency) {
        const batch = folders.slice(at, at + listConcurrency)
        const lists = await Promise.all(batch.map((folder) => this.#readFolder(folder)))
        lists.forEach((entries, index) => {
          for (const { filename, attrs } of entries) {
            if (filename === '.' || filename === '..') continue
            const relative = batch[index]! + filename
            if (attrs.isDirectory()) next.push(`${relative}/`)
            else if (attrs.isFile())
              files.push({ path: relative, sizeBytes: attrs.size, modifiedSeconds: attrs.mtime })
          }
        })
      }
      folders = next
    }
    return files
  }

  async #readFolder(folder: string): Promise<FileEntryWithStats[]> {
    const at = this.#at(folder)
    try {
      return await this.#do<FileEntryWithStats[]>(at, (done) => this.sftp.readdir(at, done))
    } catch (error) {
      // A folder that is not there yet holds nothing.
      if (error instanceof TransferError && error.code === 'no-folder') return []
      throw error
    }
  }

  read(relative: string): Promise<Buffer> {
    const at = this.#at(relative)
    return this.#do<Buffer>(at, (done) => this.sftp.readFile(at, done))
  }

  async put(relative: string, bytes: Buffer): Promise<ListedFile> {
    const at = this.#at(relative)
    await this.#makeFolder(path.posix.dirname(at))
    const temporary = `${at}.${randomBytes(4).toString('hex')}${temporarySuffix}`
    try {
      await this.#write(temporary, bytes)
      await this.#rename(temporary, at)
    } catch (error) {
      if (!this.#isLost) await this.#unlink(temporary).catch(() => {})
      throw error
    }
    const { size, mtime } = await this.#do<Stats>(at, (done) => this.sftp.stat(at, done))
    return { path: relative, sizeBytes: size, modifiedSeconds: mtime }
  }

  async #write(at: string, bytes: Buffer): Promise<void> {
    const handle = await this.#do<Buffer>(at, (done) => this.sftp.open(at, 'w', done))
    // ssh2 splits what is larger than the server takes at once, and keeps the pieces in order.
    if (bytes.length > 0)
      await this.#do<void>(at, (done) =>
        this.sftp.write(handle, bytes, 0, bytes.length, 0, (error) => done(error)),
      )
    await this.#do<void>(at, (done) => this.sftp.close(handle, (error) => done(error)))
  }

  async #rename(from: string, to: string): Promise<void> {
    try {
      // Replaces in one step where the server offers it (OpenSSH's extension), else throws at once.
      await this.#do<void>(to, (done) => this.sftp.ext_openssh_rename(from, to, (error) => done(error)))
      return
    } catch (error) {
      if (this.#isLost) throw error
    }
    const rename = () => this.#do<void>(to, (done) => this.sftp.rename(from, to, (error) => done(error)))
    try {
      await rename()
    } catch (error) {
      if (!(error instanceof TransferError) || error.code !== 'other') throw error
      // Some servers do not rename onto a file that is there.
      await this.#unlink(to)
      await rename()
    }
  }

  #unlink(at: string): Promise<void> {
    return this.#do<void>(at, (done) => this.sftp.unlink(at, (error) => done(error)))
  }

  /** Makes a folder and those above it, each asked for once. */
  #makeFolder(at: string): Promise<void> {
    if (at === '.' || at === '/' || at === '') return Promise.resolve()
    let making = this.#folders.get(at)
    if (!making) {
      making = this.#reallyMakeFolder(at)
      this.#folders.set(at, making)
    }
    return making
  }

  async #reallyMakeFolder(at: string): Promise<void> {
    const there = await this.#do<Stats>(at, (done) => this.sftp.stat(at, done)).catch(
      (error: TransferError) => {
        if (error.code !== 'no-folder') throw error
        return null
      },
    )
    if (there?.isDirectory()) return
    if (there) throw new TransferError('other', `${at} has to be a folder, but a file of that name is there.`)
    await this.#makeFolder(path.posix.dirname(at))
    await this.#do<void>(at, (done) => this.sftp.mkdir(at, (error) => done(error)))
  }

  async remove(relative: string): Promise<void> {
    await this.#unlink(this.#at(relative)).catch((error: TransferError) => {
      if (error.code !== 'no-folder') throw error
    })
  }

  async close(): Promise<void> {
    if (this.#isLost) return
    this.client.end()
    await this.#lost.catch(() => {})
  }
}
