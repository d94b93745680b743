import fs from 'node:fs/promises'
import path from 'node:path'
import ssh2, {
  type Attributes,
  type AuthenticationType,
  type Connection,
  type KeyboardAuthContext,
  type SFTPWrapper,
} from 'ssh2'
import type { Accounts } from './accounts'
import { diskPath } from './disk'
import type { Faults } from './faults'

const { STATUS_CODE, OPEN_MODE } = ssh2.utils.sftp

/** What the SFTP door needs to know. */
export interface SftpOptions {
  readonly accounts: Accounts
  /** Private key in OpenSSH or PEM form. */
  readonly hostKey: string
  readonly faults: Faults
}

interface OpenHandle {
  readonly file: fs.FileHandle | null
  readonly folder: string | null
  listed: boolean
  /** Requests for one file are done in the order in which they come (draft-ietf-secsh-filexfer-02 §4.1). */
  turn: Promise<void>
}

/** Wrong passwords of the last minute, over all connections. */
class Guesses {
  #at: number[] = []

  /** How long the next refusal waits. */
  delayMs(now = Date.now()): number {
    this.#at = [...this.#at.filter((at) => now - at < 60_000), now].slice(-20)
    return Math.min(3_000, 100 * 1.5 ** (this.#at.length - 1))
  }
}

/** An SFTP server over one folder (SFTP version 3, draft-ietf-secsh-filexfer-02). Not yet listening. */
export function createSftpServer(options: SftpOptions): ssh2.Server {
  const { faults } = options
  const connections = new Set<Connection>()
  const guesses = new Guesses()
  faults.onCut(() => {
    for (const connection of connections) {
      // Not `end()`: a cut line says no goodbye.
      ;(connection as unknown as { _sock?: { destroy(): void } })._sock?.destroy()
    }
  })
  return new ssh2.Server({ hostKeys: [options.hostKey] }, (connection) => {
    connections.add(connection)
    /** What the account that signed in sees. */
    let root: string | null = null
    connection.on('close', () => connections.delete(connection))
    connection.on('error', () => connections.delete(connection))
    connection.on('authentication', (request) => {
      const way = faults.keyboardOnly ? 'keyboard-interactive' : 'password'
      const ways: AuthenticationType[] = [way, 'publickey']
      if (request.method === 'publickey') {
        const { key, signature, blob, hashAlgo, username } = request
        void options.accounts
          .rootForKey(username, `${key.algo} ${key.data.toString('base64')}`)
          .then((found) => {
            const read = ssh2.utils.parseKey(`${key.algo} ${key.data.toString('base64')}`)
            if (found === null || read instanceof Error || Array.isArray(read)) return request.reject(ways)
            // Without a signature it is only asked whether the key would do (RFC 4252 §7).
            if (!signature || !blob) return request.accept()
            if (read.verify(blob, signature, hashAlgo) !== true) return request.reject(ways)
            root = found
            request.accept()
          })
        return
      }
      if (request.method !== way) {
        request.reject(ways)
        return
      }
      faults.seenPassword = true
      const asked =
        request.method === 'password'
          ? Promise.resolve(request.password)
          : new Promise<string>((resolve) =>
              (request as KeyboardAuthContext).prompt([{ prompt: 'Password: ', echo: false }], (answers) =>
                resolve(answers[0] ?? ''),
              ),
            )
      void asked
        .then((password) => options.accounts.rootFor(request.username, password))
        .then((found) => {
          root = found
          // Guesses cost time, more with each, whatever connection they come over.
          if (found !== null) request.accept()
          else
            setTimeout(() => {
              // Who guesses may have hung up meanwhile.
              if (connections.has(connection)) request.reject(ways)
            }, guesses.delayMs())
        })
    })
    connection.on('ready', () =>
      connection.on('session', (accept) => {
        accept().on('sftp', (acceptSftp) => {
          if (root !== null && !faults.never.has('SUBSYSTEM')) serve(acceptSftp(), root, faults)
        })
      }),
    )
  })
}

function attributesOf(stats: {
  mode: number
  size: number
  uid: number
  gid: number
  atimeMs: number
  mtimeMs: number
}): Attributes {
  return {
    mode: stats.mode,
    size: stats.size,
    uid: stats.uid,
    gid: stats.gid,
    atime: Math.floor(stats.atimeMs / 1000),
    mtime: Math.floor(stats.mtimeMs / 1000),
  }
}

function statusOf(error: unknown): number {
  switch ((error as NodeJS.ErrnoException).code) {
    case 'ENOENT':
    case 'ENOTDIR':
      return STATUS_CODE.NO_SUCH_FILE
    case 'EACCES':
    case 'EPERM':
      return STATUS_CODE.PERMISSION_DENIED
    default:
      return STATUS_CODE.FAILURE
  }
}

function openFlags(mode: number): string {
  const write = (mode & OPEN_MODE.WRITE) !== 0
  if (!write) return 'r'
  if (mode & OPEN_MODE.APPEND) return mode & OPEN_MODE.EXCL ? 'ax' : 'a'
  if (mode & OPEN_MODE.TRUNC || mode & OPEN_MODE.CREAT) return mode & OPEN_MODE.EXCL ? 'wx' : 'w'
  return 'r+'
}

/** An entry that stands for nothing on the disk. */
const entry = (filename: string, isFolder: boolean) => ({
  filename,
  longname: filename,
  attrs: { mode: isFolder ? 0o40755 : 0o100644, size: 1, uid: 0, gid: 0, atime: 1, mtime: 1 },
})

/** What the account is told: the system's own message would show where on the disk the space is. */
function sentenceOf(error: unknown): string {
  switch ((error as NodeJS.ErrnoException).code) {
    case 'ENOENT':
    case 'ENOTDIR':
      return 'No such file'
    case 'EACCES':
    case 'EPERM':
      return 'Permission denied'
    case 'ENOSPC':
      return 'No space left on device'
    default:
      return 'Failure'
  }
}

function serve(sftp: SFTPWrapper, root: string, faults: Faults): void {
  const handles = new Map<number, OpenHandle>()
  let nextHandle = 0
  let isClosed = false
  const on = (wanted: string) => diskPath(root, wanted, faults)
  const open = (handle: OpenHandle): Buffer => {
    const id = Buffer.alloc(4)
    id.writeUInt32BE(nextHandle)
    handles.set(nextHandle++, handle)
    return id
  }
  const find = (id: Buffer) => (id.length === 4 ? handles.get(id.readUInt32BE()) : undefined)
  /** Runs one request, with so many bytes of a file; a failure becomes its status, never the end of the server. */
  const answer = (name: string, request: number, work: () => Promise<void>, byteCount = 0) => {
    const come = faults.overLine(byteCount)
    void (async () => {
      try {
        await come
        await faults.beforeRequest(name)
        await work()
      } catch (error) {
        sftp.status(request, statusOf(error), sentenceOf(error))
      }
    })()
  }
  /** One request for an open file, after those before it. */
  const inTurn = (
    name: string,
    request: number,
    id: Buffer,
    work: (handle: OpenHandle) => Promise<void>,
    byteCount = 0,
  ) => {
    const inOrder = async () => {
      const handle = find(id)
      if (!handle) throw new Error('No such handle')
      const before = handle.turn
      const own = before.then(() => work(handle))
      handle.turn = own.catch(() => {})
      await own
    }
    answer(name, request, inOrder, byteCount)
  }
  const done = (request: number) => sftp.status(request, STATUS_CODE.OK)

  sftp.on('OPEN', (request, name, mode) =>
    answer('OPEN', request, async () => {
      faults.beforeOpen(name, (mode & OPEN_MODE.WRITE) !== 0)
      faults.beforeRead(name)
      const file = await fs.open(on(name), openFlags(mode), faults.closedFiles ? 0o600 : 0o644)
      if (faults.clockSeconds !== 0 && mode & OPEN_MODE.WRITE) await file.utimes(faults.now(), faults.now())
      // Cut while it was being opened.
      if (isClosed) return file.close()
      sftp.handle(request, open({ file, folder: null, listed: false, turn: Promise.resolve() }))
    }),
  )
  sftp.on('READ', (request, id, offset, length) => {
    const read = async ({ file }: OpenHandle) => {
      const buffer = Buffer.alloc(Math.min(length, 65_536))
      const { bytesRead } = await file!.read(buffer, 0, buffer.length, offset)
      if (faults.endless === 'file') sftp.data(request, Buffer.alloc(length, 'x'))
      else if (bytesRead === 0) sftp.status(request, STATUS_CODE.EOF)
      else sftp.data(request, buffer.subarray(0, bytesRead))
    }
    inTurn('READ', request, id, read, length)
  })
  sftp.on('WRITE', (request, id, offset, data) => {
    // The buffer is the connection's own and is filled again once this handler has returned.
    const bytes = Buffer.from(data)
    const write = async ({ file }: OpenHandle) => {
      faults.beforeWrite(bytes.length)
      await file!.write(bytes, 0, bytes.length, offset)
      if (faults.clockSeconds !== 0) await file!.utimes(faults.now(), faults.now())
      done(request)
    }
    inTurn('WRITE', request, id, write, bytes.length)
  })
  sftp.on('CLOSE', (request, id) =>
    inTurn('CLOSE', request, id, async ({ file }) => {
      await file?.close()
      handles.delete(id.readUInt32BE())
      done(request)
    }),
  )
  sftp.on('OPENDIR', (request, name) =>
    answer('OPENDIR', request, async () => {
      faults.beforeRead(name)
      if (faults.endless !== 'tree' && !(await fs.stat(on(name))).isDirectory())
        throw Object.assign(new Error('Not a folder'), { code: 'ENOTDIR' })
      sftp.handle(request, open({ file: null, folder: on(name), listed: false, turn: Promise.resolve() }))
    }),
  )
  sftp.on('READDIR', (request, id) =>
    answer('READDIR', request, async () => {
      const handle = find(id)
      if (handle?.folder && faults.endless === 'folder') {
        sftp.name(
          request,
          Array.from({ length: 100 }, (_, index) => entry(`${Date.now()}-${index}.html`, false)),
        )
        return
      }
      if (handle?.folder && !handle.listed && faults.endless === 'tree') {
        handle.listed = true
        sftp.name(request, [entry('deeper', true)])
        return
      }
      if (!handle?.folder || handle.listed) {
        sftp.status(request, STATUS_CODE.EOF)
        return
      }
      handle.listed = true
      const names = await fs.readdir(handle.folder)
      const entries = await Promise.all(
        names.map(async (filename) => {
          const stats = await fs.lstat(path.join(handle.folder!, filename)).catch(() => null)
          return stats && { filename, longname: filename, attrs: attributesOf(stats) }
        }),
      )
      sftp.name(
        request,
        entries.filter((entry) => entry !== null),
      )
    }),
  )
  const stat = (request: number, name: string) =>
    answer('STAT', request, async () => sftp.attrs(request, attributesOf(await fs.stat(on(name)))))
  sftp.on('STAT', stat)
  sftp.on('LSTAT', stat)
  sftp.on('FSTAT', (request, id) =>
    inTurn('FSTAT', request, id, async ({ file }) => sftp.attrs(request, attributesOf(await file!.stat()))),
  )
  sftp.on('SETSTAT', (request, name, { mode, mtime }) =>
    answer('SETSTAT', request, async () => {
      if (mode !== undefined) await fs.chmod(on(name), mode & 0o777)
      const time = mtime === undefined ? null : faults.timeFor(new Date(mtime * 1_000))
      if (time) await fs.utimes(on(name), time, time)
      done(request)
    }),
  )
  sftp.on('FSETSTAT', (request, id, { mode }) =>
    inTurn('FSETSTAT', request, id, async ({ file }) => {
      if (mode !== undefined) await file?.chmod(mode & 0o777)
      done(request)
    }),
  )
  sftp.on('REALPATH', (request, name) => {
    const filename = path.posix.normalize(path.posix.join('/', name))
    sftp.name(request, [{ filename, longname: filename, attrs: {} as Attributes }])
  })
  sftp.on('MKDIR', (request, name) =>
    answer('MKDIR', request, async () => {
      await fs.mkdir(on(name), { mode: faults.closedFiles ? 0o700 : 0o755 })
      done(request)
    }),
  )
  sftp.on('RMDIR', (request, name) =>
    answer('RMDIR', request, async () => {
      await fs.rmdir(on(name))
      done(request)
    }),
  )
  sftp.on('REMOVE', (request, name) =>
    answer('REMOVE', request, async () => {
      await fs.unlink(on(name))
      done(request)
    }),
  )
  sftp.on('RENAME', (request, from, to) =>
    answer('RENAME', request, async () => {
      if (!faults.renameReplaces && (await fs.stat(on(to)).catch(() => null)))
        throw new Error('The target exists')
      await fs.rename(on(from), on(to))
      faults.afterRename()
      done(request)
    }),
  )
  // A client that speaks no SFTP after all ends its channel, and nothing else.
  ;(sftp as unknown as NodeJS.EventEmitter).on('error', () => {})
  sftp.on('close', () => {
    isClosed = true
    for (const { file } of handles.values()) void file?.close().catch(() => {})
  })
}
