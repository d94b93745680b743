import { createReadStream } from 'node:fs'
import fs from 'node:fs/promises'
import net from 'node:net'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import tls from 'node:tls'
import type { Accounts } from './accounts'
import { diskPath } from './disk'
import type { Faults } from './faults'
import { dosLine, type Entry, factLine, timeOf, unixLine } from './ftp-lines'
import { Refused, replyFor } from './ftp-replies'

/** What the FTP door needs to know. */
export interface FtpOptions {
  readonly accounts: Accounts
  /** Private key and certificate, PEM. */
  readonly key: string
  readonly cert: string
  readonly faults: Faults
}

/**
 * An FTP server over one folder (RFC 959, 2389, 2428, 3659), with TLS where it is asked for (RFC 4217) or from the
 * first byte. Not yet listening.
 */
export function createFtpServer(options: FtpOptions, isImplicit = false): net.Server {
  const { faults, key, cert } = options
  const sockets = new Set<net.Socket>()
  faults.onCut(() => {
    for (const socket of sockets) socket.destroy()
  })
  const keep = (socket: net.Socket) => {
    sockets.add(socket)
    socket.on('close', () => sockets.delete(socket))
    socket.on('error', () => socket.destroy())
    socket.setNoDelay()
  }
  // One context, so that a session of the control connection is known to the data connections.
  const secureContext = tls.createSecureContext({ key, cert })
  return net.createServer((socket) => {
    keep(socket)
    if (faults.connections !== null && sockets.size > faults.connections) {
      socket.end('421 Too many connections from this address\r\n')
      return
    }
    if (isImplicit) new FtpSession(secured(socket, secureContext), options, secureContext, keep)
    else new FtpSession(socket, options, secureContext, keep)
  })
}

function secured(socket: net.Socket, secureContext: tls.SecureContext): tls.TLSSocket {
  const secure = new tls.TLSSocket(socket, { isServer: true, secureContext })
  secure.on('error', () => socket.destroy())
  return secure
}

class FtpSession {
  #folder = '/'
  #user = ''
  /** What the account that signed in sees as `/`; null before. */
  #root: string | null = null
  #renaming: Buffer | null = null
  #restAt = 0
  #protected = false
  #data: {
    readonly server: net.Server
    readonly raw: Promise<net.Socket>
    readonly socket: Promise<net.Socket>
  } | null = null
  #rest = ''
  #turn: Promise<void> = Promise.resolve()
  /** Rejects when whoever asks has gone: what waits for them then would wait for ever. */
  readonly #gone: Promise<never>
  #hasGone!: (why: Error) => void

  constructor(
    private socket: net.Socket,
    private readonly options: FtpOptions,
    private readonly secureContext: tls.SecureContext,
    private readonly keep: (socket: net.Socket) => void,
  ) {
    this.#gone = new Promise((_, reject) => (this.#hasGone = reject))
    this.#gone.catch(() => {})
    this.#listen()
    this.#reply(220, 'Practice host')
  }

  #listen(): void {
    // Names are the bytes that the disk has, a letter each.
    this.socket.setEncoding('latin1')
    this.socket.on('data', (text: string) => {
      this.#rest += text
      if (this.#rest.length > 20_000) return void this.socket.destroy()
      const lines = this.#rest.split('\n')
      this.#rest = lines.pop()!
      const cameAt = Date.now()
      const { faults } = this.options
      faults.mostAtOnce = Math.max(faults.mostAtOnce, lines.length)
      const taken = faults.oneAtATime ? lines.slice(0, 1) : lines
      // One command after the other, as they came.
      for (const line of taken) this.#turn = this.#turn.then(() => this.#do(line.replace(/\r$/, ''), cameAt))
    })
    this.socket.on('close', () => {
      this.#hasGone(new Refused(426, 'Gone'))
      void this.#endData()
    })
  }

  #reply(code: number, text: string): void {
    if (!this.socket.destroyed) this.socket.write(`${code} ${text}\r\n`, 'latin1')
  }

  #lines(code: number, first: string, lines: readonly string[], last: string): void {
    this.socket.write(
      `${code}-${first}\r\n${lines.map((line) => ` ${line}\r\n`).join('')}${code} ${last}\r\n`,
      'latin1',
    )
  }

  /** A path of the account, from its root. */
  #path = (wanted: string) =>
    path.posix.normalize(path.posix.join(wanted.startsWith('/') ? '/' : this.#folder, wanted))
  #on = (wanted: string): Buffer => {
    const root = Buffer.from(this.#root!).toString('latin1')
    return Buffer.from(diskPath(root, this.#path(wanted), this.options.faults), 'latin1')
  }

  async #do(line: string, cameAt: number): Promise<void> {
    const [, verb = '', words = ''] = /^(\S+)(?: (.*))?$/s.exec(line) ?? []
    const name = verb.toUpperCase()
    try {
      await this.options.faults.beforeRequest(name, cameAt)
      const open = ['USER', 'PASS', 'AUTH', 'PBSZ', 'PROT', 'FEAT', 'OPTS', 'QUIT', 'SYST', 'NOOP']
      if (this.#root === null && !open.includes(name)) throw new Refused(530, 'Sign in first')
      const command = Object.hasOwn(this.#commands, name) ? this.#commands[name] : undefined
      if (!command) throw new Refused(502, 'Not known here')
      await command(words)
    } catch (error) {
      await this.#endData()
      this.#reply(...replyFor(error))
    }
  }

  readonly #commands: Readonly<Record<string, (words: string) => Promise<void> | void>> = {
    USER: (user) => {
      this.#user = user
      this.#reply(331, 'And the password')
    },
    PASS: async (password) => {
      const { accounts, faults } = this.options
      faults.seenPassword = true
      this.#root = await accounts.rootFor(this.#user, password)
      if (this.#root === null) {
        await new Promise((resolve) => setTimeout(resolve, 100))
        throw new Refused(530, 'Login incorrect')
      }
      this.#reply(230, 'Signed in')
    },
    AUTH: () => {
      this.#reply(234, 'Go on with TLS')
      const plain = this.socket
      plain.removeAllListeners('data')
      this.socket = secured(plain, this.secureContext)
      this.#listen()
    },
    PBSZ: () => this.#reply(200, 'PBSZ=0'),
    PROT: (level) => {
      this.#protected = level === 'P'
      this.#reply(200, 'Done')
    },
    FEAT: () => this.#lines(211, 'Features', [...(this.options.faults.listing !== 'facts' ? [] : ['MLST type*;size*;modify*;UNIX.mode*;', 'EPSV']), 'UTF8', 'MFMT', 'AUTH TLS', 'PROT', 'SIZE', 'MDTM', 'REST STREAM'], 'End'),
    OPTS: () => this.#reply(200, 'Done'),
    SYST: () => this.#reply(215, 'UNIX Type: L8'),
    NOOP: () => this.#reply(200, 'Done'),
    TYPE: () => this.#reply(200, 'Done'),
    STRU: () => this.#reply(200, 'Done'),
    MODE: () => this.#reply(200, 'Done'),
    ALLO: () => this.#reply(202, 'Not needed'),
    QUIT: () => {
      this.#reply(221, 'Goodbye')
      this.socket.end()
    },
    PWD: () => this.#reply(257, `"${this.#folder.replaceAll('"', '""')}"`),
    CWD: async (wanted) => {
      if (!(await fs.stat(this.#on(wanted))).isDirectory()) throw new Refused(550, 'Not a directory')
      this.#folder = this.#path(wanted)
      this.#reply(250, 'Done')
    },
    CDUP: () => this.#commands.CWD!('..'),
    EPSV: async () => {
      if (this.options.faults.listing !== 'facts') throw new Refused(500, 'Not known here')
      this.#reply(229, `Entering Extended Passive Mode (|||${await this.#listenForData()}|)`)
    },
    PASV: async () => {
      const port = await this.#listenForData()
      const address = this.options.faults.wrongPassive ? '10,0,0,7' : '127,0,0,1'
      this.#reply(227, `Entering Passive Mode (${address},${port >> 8},${port & 255})`)
    },
    MLSD: async (wanted) => {
      if (this.options.faults.listing !== 'facts') throw new Refused(500, 'Not known here')
      await this.#sendLines(this.#entries(wanted, factLine))
    },
    MLST: async (wanted) => {
      if (this.options.faults.listing !== 'facts') throw new Refused(500, 'Not known here')
      const stats = await fs.stat(this.#on(wanted))
      this.#lines(250, 'Listing', [factLine(this.#path(wanted), { ...stats, isFolder: stats.isDirectory() })], 'End')
    },
    LIST: async (words) => {
      const wanted = words.replace(/^-\w+ ?/, '')
      const { faults } = this.options
      await this.#sendLines(this.#entries(wanted, (name, entry) => (faults.listing === 'dos' ? dosLine(name, entry) : unixLine(name, entry, faults.now()))))
    },
    SIZE: async (wanted) => {
      const stats = await fs.stat(this.#on(wanted))
      if (!stats.isFile()) throw new Refused(550, 'Not a plain file')
      this.#reply(213, String(stats.size))
    },
    MDTM: async (wanted) => this.#reply(213, timeOf((await fs.stat(this.#on(wanted))).mtimeMs)),
    MFMT: async (words) => {
      const [, time, wanted] = /^(\d{14}) (.+)$/s.exec(words) ?? []
      const { faults } = this.options
      if (!time || faults.listing !== 'facts') throw new Refused(500, 'Not known here')
      const [year, month, day, hour, minute, second] = time.match(/^....|../g)!.map(Number) as [number, number, number, number, number, number]
      const modified = faults.timeFor(new Date(Date.UTC(year, month - 1, day, hour, minute, second)))
      const at = this.#on(wanted!)
      if (modified) await fs.utimes(at, modified, modified)
      this.#reply(213, `Modify=${time}; ${wanted}`)
    },
    REST: (at) => {
      this.#restAt = Number(at) || 0
      this.#reply(350, 'From there')
    },
    RETR: async (wanted) => {
      this.options.faults.beforeRead(this.#path(wanted))
      const at = this.#on(wanted)
      if (!(await fs.stat(at)).isFile()) throw new Refused(550, 'Not a plain file')
      const start = this.#restAt
      this.#restAt = 0
      const { faults } = this.options
      const endless = async function* () {
        for (;;) yield await Promise.resolve(Buffer.alloc(10_000, 'x'))
      }
      await this.#overData((data) => pipeline(faults.endless === 'file' ? endless() : createReadStream(at, { start }), faults.line, data))
    },
    STOR: async (wanted) => {
      const { faults } = this.options
      faults.beforeOpen(wanted, true)
      const file = await fs.open(this.#on(wanted), 'w', faults.closedFiles ? 0o600 : 0o644)
      try {
        await this.#overData(async (data) => {
          for await (const piece of data as AsyncIterable<Buffer>) {
            await Promise.race([faults.beforeRequest('WRITE').then(() => faults.overLine(piece.length)), this.#gone])
            faults.beforeWrite(piece.length)
            await file.write(piece)
          }
        })
        if (faults.clockSeconds !== 0) await file.utimes(faults.now(), faults.now())
      } finally {
        await file.close()
      }
    },
    RNFR: async (wanted) => {
      await fs.lstat(this.#on(wanted))
      this.#renaming = this.#on(wanted)
      this.#reply(350, 'To what')
    },
    RNTO: async (wanted) => {
      const { faults } = this.options
      const from = this.#renaming
      this.#renaming = null
      if (from === null) throw new Refused(503, 'RNFR first')
      const to = this.#on(wanted)
      if (!faults.renameReplaces && (await fs.stat(to).catch(() => null))) throw new Refused(553, 'The target exists')
      // Late already, as a command.
      await faults.beforeRequest('RENAME', 0)
      await fs.rename(from, to)
      faults.afterRename()
      this.#reply(250, 'Done')
    },
    DELE: async (wanted) => {
      await fs.unlink(this.#on(wanted))
      this.#reply(250, 'Done')
    },
    MKD: async (wanted) => {
      await fs.mkdir(this.#on(wanted), { mode: this.options.faults.closedFiles ? 0o700 : 0o755 })
      this.#reply(257, `"${this.#path(wanted)}" made`)
    },
    SITE: async (words) => {
      const [, mode, wanted] = /^CHMOD ([0-7]{3,4}) (.+)$/is.exec(words) ?? []
      if (!mode || this.options.faults.fixedRights) throw new Refused(504, 'Not known here')
      await fs.chmod(this.#on(wanted!), Number.parseInt(mode, 8) & 0o777)
      this.#reply(200, 'Done')
    },
    RMD: async (wanted) => {
      await fs.rmdir(this.#on(wanted))
      this.#reply(250, 'Done')
    },
  } // prettier-ignore

  /** Opens a port for one data connection, for whoever this connection is from. */
  async #listenForData(): Promise<number> {
    void this.#endData()
    const server = net.createServer()
    server.on('error', () => {})
    const raw = new Promise<net.Socket>((resolve) =>
      server.once('connection', (one) => {
        this.keep(one)
        server.close()
        resolve(one)
      }),
    )
    const socket = raw.then((one) => (this.#protected ? secured(one, this.secureContext) : one))
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
    this.#data = { server, raw, socket }
    // Whoever asked may have gone meanwhile, and nobody would come through it.
    if (this.socket.destroyed) void this.#endData()
    return (server.address() as net.AddressInfo).port
  }

  /** Ends the data connection; the host's answer may come before it is noticed, unless it is to come after. */
  async #endData(): Promise<void> {
    const data = this.#data
    this.#data = null
    if (!data) return
    data.server.close()
    if (!this.options.faults.endsDataFirst) return void data.socket.then((socket) => socket.destroy())
    await Promise.race([data.raw.then((socket) => socket.resetAndDestroy()), this.#gone]).catch(() => {})
    await new Promise((resolve) => setTimeout(resolve, 100))
  }

  /** Does something over the data connection, said before and after. */
  async #overData(work: (data: net.Socket) => Promise<unknown>): Promise<void> {
    const opened = this.#data
    if (!opened) throw new Refused(425, 'EPSV or PASV first')
    this.#reply(150, 'Here it comes')
    const data = await Promise.race([opened.socket, this.#gone])
    try {
      await work(data)
      if (!data.writableEnded) data.end()
      this.#data = null
    } catch (error) {
      await this.#endData()
      throw error
    }
    this.#reply(226, 'Done')
  }

  async *#entries(wanted: string, tell: (name: string, entry: Entry) => string): AsyncGenerator<string> {
    const { faults } = this.options
    const made = { size: 1, mtimeMs: 1_000_000_000_000, mode: 0o755 }
    if (faults.endless === 'tree') return yield tell('deeper', { ...made, isFolder: true })
    for (let at = 0; faults.endless === 'folder'; at++)
      yield tell(`${Date.now()}-${at}.html`, { ...made, isFolder: false })
    faults.beforeRead(this.#path(wanted))
    const at = this.#on(wanted)
    const one = await fs.stat(at)
    if (!one.isDirectory()) return yield tell(path.posix.basename(wanted), { isFolder: false, size: one.size, mtimeMs: one.mtimeMs, mode: one.mode }) // prettier-ignore
    for (const bytes of await fs.readdir(at, { encoding: 'buffer' })) {
      const stats = await fs.lstat(Buffer.concat([at, Buffer.from('/'), bytes])).catch(() => null)
      const name = bytes.toString('latin1')
      // Links are not told of: neither kind would be true.
      if (stats?.isFile() || stats?.isDirectory())
        yield tell(name, {
          isFolder: stats.isDirectory(),
          size: stats.size,
          mtimeMs: stats.mtimeMs,
          mode: stats.mode,
        })
    }
  }

  async #sendLines(lines: AsyncGenerator<string>): Promise<void> {
    const first = await lines.next()
    await this.#overData((data) =>
      pipeline(async function* () {
        for (let { done, value } = first; !done; { done, value } = await lines.next())
          yield Buffer.from(`${value}\r\n`, 'latin1')
      }, data),
    )
  }
}
