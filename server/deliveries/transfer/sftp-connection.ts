import { createHash } from 'node:crypto'
import ssh2, { type SFTPWrapper } from 'ssh2'
import { config, dial } from '#server/platform'
import {
  TransferError,
  type TransferLimits,
  transferLimits,
  type TransferOptions,
  type TransferTarget,
} from './transport'

/** SHA-256 of a host key in the form OpenSSH shows (`SHA256:` and base64 without padding). */
export const fingerprint = (key: Buffer): string =>
  `SHA256:${createHash('sha256').update(key).digest('base64').replace(/=+$/, '')}`

/** How far a connection had come; what fails means something else at each step. */
type Step = 'greeting' | 'signing-in' | 'opening' | 'open'

const unreachable = (host: string, port: number, cause: unknown) =>
  new TransferError('unreachable', { host, port, protocol: 'SFTP', usual: 22 }, { cause })

interface Asked {
  readonly reject: (error: Error) => void
  readonly startedAt: number
  /** Its place among all that were asked. */
  readonly nth: number
  /** When it was found that one asked after it had been answered; null while none was. */
  overtakenAt: number | null
}

/**
 * An SSH connection on which every error is heard, from before it is opened until after it is closed,
 * and every request is raced with the connection's end, the limits and the caller's signal.
 */
export class SshConnection {
  readonly #client = new ssh2.Client()
  readonly #asked = new Set<Asked>()
  #failure: TransferError | null = null
  #step: Step = 'greeting'
  #answeredAt = Date.now()
  #askedCount = 0
  /** The last asked of those that were answered. */
  #lastAnswered = -1
  #timer: NodeJS.Timeout | null = null
  hostKey = ''
  /** Whether a key signs in, not a password. */
  #byKey = false

  constructor(
    private readonly host: string,
    private readonly port: number,
    private readonly limits: TransferLimits,
    private readonly signal: AbortSignal | undefined,
  ) {
    // Never taken off: a host that breaks off is told of twice, the second time long after the first.
    this.#client.on('error', (error) => this.fail(this.#errorOf(error)))
    this.#client.on('close', () => this.fail(this.#cut(null)))
    signal?.addEventListener('abort', this.#stop, { once: true })
    if (signal?.aborted) this.#stop()
  }

  readonly #stop = () => this.fail(new TransferError('stopped'))

  /** Why the connection is of no more use; null while it is. */
  get failure(): TransferError | null {
    return this.#failure
  }

  /** Ends the connection for this reason: all that was asked is rejected with it. */
  readonly fail = (error: TransferError): void => {
    if (this.#failure) return
    this.#failure = error
    if (this.#timer) clearInterval(this.#timer)
    this.signal?.removeEventListener('abort', this.#stop)
    for (const { reject } of this.#asked) reject(error)
    this.#asked.clear()
    this.#client.destroy()
  }

  #cut(cause: unknown): TransferError {
    if (this.#step === 'greeting') return unreachable(this.host, this.port, cause)
    const when =
      this.#step === 'open'
        ? 'was lost'
        : 'was cut while signing in. Try again; if it happens again, ask the host'
    return new TransferError('connection-lost', { host: this.host, when }, { cause })
  }

  #errorOf(error: Error & { level?: string }): TransferError {
    if (this.#step !== 'greeting' && error.level === 'client-authentication')
      return new TransferError(
        this.#byKey ? 'key-refused' : 'wrong-host-password',
        { host: this.host },
        { cause: error },
      )
    return this.#cut(error)
  }

  /**
   * Watches over what is asked: an answer to anything shows that the host is alive, and what waits for its turn behind
   * much else on a slow line is given the time for it. What is passed over is not.
   */
  #watch(): void {
    const everyMs = Math.max(20, Math.min(1_000, this.limits.silenceMs / 8))
    this.#timer = setInterval(() => {
      const now = Date.now()
      for (const asked of this.#asked) {
        if (asked.nth < this.#lastAnswered) asked.overtakenAt ??= now
        if (
          now - Math.max(asked.startedAt, this.#answeredAt) > this.limits.silenceMs ||
          now - (asked.overtakenAt ?? now) > this.limits.requestMs
        )
          return this.fail(new TransferError('timeout', { host: this.host }))
      }
    }, everyMs)
    this.#timer.unref()
  }

  /** Asks the host for something; rejects with the host's own error, or with the connection's failure. */
  ask<T>(call: (done: (error: Error | null | undefined, value: T) => void) => void): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      if (this.#failure) {
        reject(this.#failure)
        return
      }
      const asked: Asked = { reject, startedAt: Date.now(), nth: this.#askedCount++, overtakenAt: null }
      this.#asked.add(asked)
      const settle = (settled: () => void) => {
        this.#answeredAt = Date.now()
        this.#lastAnswered = Math.max(this.#lastAnswered, asked.nth)
        if (this.#asked.delete(asked)) settled()
      }
      try {
        call((error, value) => settle(() => (error ? reject(error) : resolve(value))))
      } catch (error) {
        settle(() => reject(error as Error))
      }
    })
  }

  /** Connects; `until` says when it is far enough, by calling its argument. */
  async #connect(
    settings: Partial<ssh2.ConnectConfig>,
    until: (reached: () => void) => void,
    accept: (key: string) => TransferError | null,
  ): Promise<void> {
    const timer = setTimeout(
      () =>
        this.fail(
          this.#step === 'greeting'
            ? unreachable(this.host, this.port, null)
            : new TransferError('timeout', { host: this.host }),
        ),
      this.limits.connectMs,
    )
    try {
      const dialling = new AbortController()
      await this.ask<void>((done) => {
        this.#asked.add({
          reject: (error) => dialling.abort(error),
          startedAt: Infinity,
          nth: Infinity,
          overtakenAt: null,
        })
        dial(this.host, this.port, config().outgoing, dialling.signal).then(
          (socket) => {
            if (this.#failure) {
              socket.destroy()
              return
            }
            until(() => done(null))
            this.#client.connect({
              ...settings,
              sock: socket,
              // The timer above is the deadline; the library's own ends with an error of another kind.
              readyTimeout: 0,
              hostVerifier: (key: Buffer) => {
                this.#step = 'signing-in'
                this.hostKey = fingerprint(key)
                const refusal = accept(this.hostKey)
                if (refusal) this.fail(refusal)
                return refusal === null
              },
            })
          },
          (error: Error) => this.fail(unreachable(this.host, this.port, error)),
        )
      })
    } finally {
      clearTimeout(timer)
    }
  }

  /** Learns the host's key without signing in: nothing of the account is sent. */
  async learnKey(): Promise<string> {
    const enough = new TransferError('stopped')
    await this.#connect(
      { username: 'rubricant' },
      () => {},
      () => enough,
    ).catch((error: Error) => {
      if (error !== enough) throw error
    })
    return this.hostKey
  }

  /** Signs in, to the host of the accepted key only, and opens the file transfer subsystem. */
  async signIn(target: TransferTarget): Promise<SFTPWrapper> {
    this.#byKey = Boolean(target.privateKey)
    await this.#connect(
      {
        username: target.account,
        // A key alone, where there is one: nothing else is offered to a host that does not take it.
        ...(target.privateKey
          ? { privateKey: target.privateKey.key, passphrase: target.privateKey.passphrase }
          : // Some hosts ask for it as a question (RFC 4256), and take it no other way.
            { password: target.password, tryKeyboard: true }),
        keepaliveInterval: Math.max(1_000, this.limits.silenceMs / 4),
        keepaliveCountMax: 3,
      },
      (reached) => {
        this.#client.once('ready', reached)
        let hasAnswered = false
        this.#client.on('keyboard-interactive', (_name, _instructions, _language, prompts, answer) => {
          // Only the one question whose answer is not shown is for the password, and it is answered once.
          const isPassword = prompts.length === 1 && !prompts[0]!.echo && !hasAnswered
          hasAnswered ||= isPassword
          answer(prompts.map(() => (isPassword ? target.password : '')))
        })
      },
      (key) =>
        key === target.hostKey ? null : new TransferError('host-key-changed', { host: target.host, key }),
    )
    this.#step = 'opening'
    this.#watch()
    const sftp = await this.ask<SFTPWrapper>((done) =>
      this.#client.sftp((error, wrapper) => done(error ?? null, wrapper)),
    ).catch((error: Error) => {
      if (error instanceof TransferError) throw error
      const none = new TransferError(
        'no-transfer',
        { host: target.host, protocol: 'SFTP' },
        {
          cause: error,
        },
      )
      this.fail(none)
      throw none
    })
    this.#step = 'open'
    const events = sftp as unknown as NodeJS.EventEmitter
    events.on('error', (error: Error) => this.fail(this.#cut(error)))
    events.on('close', () => this.fail(this.#cut(null)))
    return sftp
  }

  /** Says goodbye where the host listens, and goes. */
  close(): void {
    if (!this.#failure) this.#client.end()
    this.fail(new TransferError('connection-lost', { host: this.host, when: 'was closed' }))
  }
}

/** The fingerprint of a host's key, to be shown and accepted before anything secret is sent. */
export async function learnHostKey(
  host: string,
  port: number,
  { signal, limits = transferLimits }: TransferOptions = {},
): Promise<string> {
  const connection = new SshConnection(host, port, limits, signal)
  try {
    return await connection.learnKey()
  } finally {
    connection.close()
  }
}
