import type { Client } from 'basic-ftp'
import { type FtpPlace, signIn, unreachable, within } from './ftp-connection'
import { takesTogether } from './ftp-together'
import { TransferError, type TransferLimits, type TransferTarget } from './transport'

/**
 * Connections at once: each does one thing at a time, and waiting is most of what it does. A host that takes fewer
 * says so, and then it is as many as it took.
 */
export const mostConnections = 8

/** How much later than the first of two commands sent at once the second may be answered. */
const mostPatienceMs = 5_000

/** Connections of one transport, opened as they are wanted; the end of one is the end of all. */
export class FtpConnections {
  readonly #all = new Set<Client>()
  readonly #idle: Client[] = []
  readonly #waiting: { take: (client: Client) => void; fail: (error: Error) => void }[] = []
  readonly #ended = new AbortController()
  #opening = 0
  #most: number
  /** Connections that the host took when it took no more. */
  #taken: number | undefined
  #failure: TransferError | null = null

  constructor(
    readonly place: FtpPlace,
    private readonly target: TransferTarget,
    private readonly limits: TransferLimits,
    private readonly signal: AbortSignal | undefined,
  ) {
    // One more than it took last time, in case it takes more by now.
    this.#most = Math.min(mostConnections, (target.traits?.connections ?? mostConnections) + 1)
    signal?.addEventListener('abort', this.#stop, { once: true })
    if (signal?.aborted) this.#stop()
  }

  readonly #stop = () => this.fail(new TransferError('stopped'))

  /** Connections that the host takes at once, where it took fewer than were wanted. */
  get taken(): number | undefined {
    return this.#taken
  }

  /** Why the transport is of no more use; null while it is. */
  get failure(): TransferError | null {
    return this.#failure
  }

  fail(error: TransferError): void {
    if (this.#failure) return
    this.#failure = error
    this.signal?.removeEventListener('abort', this.#stop)
    this.#ended.abort(error)
    for (const client of this.#all) client.close()
    for (const { fail } of this.#waiting.splice(0)) fail(error)
  }

  close(): void {
    this.fail(new TransferError('connection-lost', { host: this.place.host, when: 'was closed' }))
  }

  /** One more connection. */
  async open(): Promise<Client> {
    if (this.#failure) throw this.#failure
    const client = await within(this.place, this.limits, this.#ended.signal, (ended) =>
      signIn(this.place, this.target, this.limits, ended, (error) => this.fail(error)),
    )
    if (this.#failure) {
      client.close()
      throw this.#failure
    }
    this.#all.add(client)
    return client
  }

  /** A first connection, and whether the host takes several commands at once; found out anew unless it is known not to. */
  async openFirst(): Promise<{ first: Client; pipelines: boolean }> {
    const first = await this.open()
    if (this.target.traits?.pipelines === false) return { first, pipelines: false }
    const patienceMs = Math.min(mostPatienceMs, this.limits.silenceMs / 2)
    if (await takesTogether(first, patienceMs)) return { first, pipelines: true }
    this.drop(first)
    return { first: await this.open(), pipelines: false }
  }

  /** A connection that nobody uses: an idle one, a new one, or the next that is given back. */
  take(): Promise<Client> {
    if (this.#failure) return Promise.reject(this.#failure)
    const idle = this.#idle.pop()
    if (idle) return Promise.resolve(idle)
    const waiting = new Promise<Client>((take, fail) => this.#waiting.push({ take, fail }))
    if (this.#all.size + this.#opening < this.#most) void this.#openMore()
    return waiting
  }

  async #openMore(): Promise<void> {
    this.#opening += 1
    try {
      const client = await this.open()
      this.#opening -= 1
      this.giveBack(client)
    } catch (error) {
      this.#opening -= 1
      // So many and no more: those that there are do the work.
      if (this.#all.size > 0) this.#most = this.#taken = this.#all.size
      else this.fail(error instanceof TransferError ? error : unreachable(this.place, error))
    }
  }

  giveBack(client: Client): void {
    if (client.closed) return this.drop(client)
    const next = this.#waiting.shift()
    if (next) next.take(client)
    else this.#idle.push(client)
  }

  /** Ends one connection alone; another takes its place where somebody waits. */
  drop(client: Client): void {
    client.close()
    this.#all.delete(client)
    if (this.#waiting.length > 0 && !this.#failure && this.#all.size + this.#opening < this.#most)
      void this.#openMore()
  }
}
