import { once } from 'node:events'
import net from 'node:net'
import { Problem } from '#core/problems'
import { config, log } from '#server/platform'
import type { Pieces } from './store'

/** Where a program listens that looks files through for what is harmful: a socket of this machine, or a port. */
export type Scanner = { readonly path: string } | { readonly host: string; readonly port: number }

const connectMs = 5_000
/** How long it may take no more, or say nothing once it has all: it unpacks what is packed. */
const silentMs = 120_000
/** Of what it says, as much is read. */
const mostAnswer = 2_000

/**
 * Passes a file on as it comes, and looks it through on the way by the program that whoever runs the server names. Its
 * last piece is passed on only once it was found harmless, so that nothing is stored of one that is not.
 * Without such a program it passes on what comes.
 *
 * What is spoken is `INSTREAM` of that program's own manual: a length of four bytes before each piece, none at the end,
 * and a line in return.
 * @throws Problem `harmful-file`, `not-looked-through`, `too-large-to-look-through`
 */
export async function* lookedThrough(
  pieces: Pieces,
  name: string,
  scanner: Scanner | null = config().scanner,
): AsyncGenerator<Uint8Array> {
  if (scanner === null) {
    yield* pieces
    return
  }
  const asked = await Asked.begin(scanner)
  try {
    let held: Uint8Array | null = null
    for await (const piece of pieces) {
      if (piece.byteLength === 0) continue
      await asked.send(piece)
      if (held) yield held
      held = piece
    }
    judge(await asked.verdict(), name)
    if (held) yield held
  } finally {
    asked.end()
  }
}

/** Bytes that are in memory, looked through; they come back as they are. */
export async function lookThrough(bytes: Uint8Array, name: string): Promise<void> {
  if (config().scanner === null) return
  for await (const piece of lookedThrough([bytes], name)) void piece
}

const unavailable = () => new Problem('not-looked-through')

/** `stream: OK`, `stream: <what it is> FOUND`, or why it could not tell. */
function judge(answer: string, name: string): void {
  if (/: OK$/.test(answer)) return
  const found = /^[^:]*: (.{1,200}) FOUND$/.exec(answer)
  if (found) {
    log.warn({ found: found[1] }, 'a harmful file is refused')
    throw new Problem('harmful-file', { name, found: found[1]! })
  }
  log.error({ answer }, 'a file could not be looked through')
  throw /size limit exceeded/i.test(answer)
    ? new Problem('too-large-to-look-through', { name })
    : unavailable()
}

/** One file that is being looked through. */
class Asked {
  #answer = ''
  #isOver = false
  /** Settled once nothing more will be said. */
  readonly #over: Promise<void>

  private constructor(private readonly socket: net.Socket) {
    socket.setTimeout(silentMs, () => socket.destroy())
    socket.on('data', (said: Buffer) => {
      if (this.#answer.length < mostAnswer) this.#answer += said.toString('latin1')
    })
    this.#over = new Promise((resolve) => {
      const over = () => {
        this.#isOver = true
        resolve()
      }
      socket.on('end', over)
      socket.on('close', over)
    })
  }

  static async begin(scanner: Scanner): Promise<Asked> {
    const socket = net.connect(scanner)
    // It may end at any moment, which is told by what it did not say.
    socket.on('error', (error) => log.warn({ err: error }, 'what looks files through is not reached'))
    socket.setTimeout(connectMs, () => socket.destroy())
    const asked = new Asked(socket)
    await Promise.race([once(socket, 'connect').catch(() => {}), asked.#over])
    if (asked.#isOver || socket.connecting) {
      socket.destroy()
      throw unavailable()
    }
    socket.setTimeout(silentMs)
    socket.write('zINSTREAM\0')
    return asked
  }

  /** Waits until there is room for more. What has been said meanwhile, of a size or of a fault, is heard at the end. */
  async send(piece: Uint8Array): Promise<void> {
    // What it says before it hangs up is read first: a piece that is written after that takes the answer with it.
    await new Promise(setImmediate)
    if (this.#isOver || this.#answer !== '') return
    const length = Buffer.alloc(4)
    length.writeUInt32BE(piece.byteLength)
    this.socket.write(length)
    if (!this.socket.write(piece))
      await Promise.race([once(this.socket, 'drain').catch(() => {}), this.#over])
  }

  async verdict(): Promise<string> {
    if (!this.#isOver) this.socket.write(Buffer.alloc(4))
    await this.#over
    return this.#answer.replace(/\0[^]*$/, '').trim()
  }

  end(): void {
    this.socket.destroy()
  }
}
