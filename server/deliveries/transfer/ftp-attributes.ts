import type { TransferError } from './transport'

/** Sends one command about what is at a path, which it is given as the host takes it. */
type Send = (at: string, command: (wire: string) => string) => Promise<unknown>

/** What sets the time of a file, in UTC (draft-somers-ftp-mfxx §3.1); the second as servers had it before that. */
const timeCommands = [
  (time: string) => (wire: string) => `MFMT ${time} ${wire}`,
  (time: string) => (wire: string) => `MDTM ${time} ${wire}`,
]

/**
 * What is asked of files by commands that most servers have beside the standard's. A host that keeps what is made to its
 * account shows no such file to visitors; it is learned from the first one, and asked for before each after that.
 */
export class FtpAttributes {
  #canOpen = true
  #made: string[] = []
  /** The command that set a time, once one did. */
  #timeCommand: (typeof timeCommands)[number] | null = null

  /**
   * @param keeps whether the host is known to keep what is made to its account
   * @param isOpen whether the connection can still be used
   */
  constructor(
    private readonly send: Send,
    private readonly isOpen: () => boolean,
    public keeps: boolean,
  ) {}

  /** Of a file that is being sent. */
  async openFile(at: string): Promise<void> {
    if (this.keeps) await this.#openToVisitors(at, 0o644)
  }

  async madeFolder(at: string): Promise<void> {
    if (this.keeps) await this.#openToVisitors(at, 0o755)
    else this.#made.push(at)
  }

  /** Of a file that is there already, and shows that the host keeps it. */
  async learnToOpen(at: string): Promise<void> {
    this.keeps = true
    await this.#openToVisitors(at, 0o644)
    for (const folder of this.#made.splice(0)) await this.#openToVisitors(folder, 0o755)
  }

  async #openToVisitors(at: string, mode: number): Promise<void> {
    if (!this.#canOpen) return
    await this.send(at, (wire) => `SITE CHMOD ${mode.toString(8)} ${wire}`).catch((error: unknown) => {
      if (!this.isOpen()) throw error
      // A host that does not let it be changed may show it all the same.
      this.#canOpen = false
    })
  }

  /** @throws TransferError where the host knows no way to set it */
  async setTime(at: string, seconds: number): Promise<void> {
    const time = new Date(seconds * 1_000).toISOString().replace(/\D/g, '').slice(0, 14)
    let refused: TransferError | null = null
    for (const command of this.#timeCommand ? [this.#timeCommand] : timeCommands) {
      try {
        await this.send(at, command(time))
        this.#timeCommand = command
        return
      } catch (error) {
        if (!this.isOpen()) throw error
        refused ??= error as TransferError
      }
    }
    throw refused!
  }
}
