const usualHomeFiles = ['index.html', 'index.htm']

/** Switches for what can go wrong at a host. All off unless a test turns one on. */
export class Faults {
  /** Answers no request before this long after it came, as one that is far away does. */
  delayMs = 0
  /** What its line carries, of all that is written to it together; null for as much as comes. */
  bytesPerSecond: number | null = null
  #lineFreeAt = 0
  /** FTP takes one command at a time, and drops those that come with it. */
  oneAtATime = false
  /** Cuts every connection after this many more files have been renamed into place. */
  cutAfterFiles: number | null = null
  /** FTP ends the data connection of what it refuses before it says why. */
  endsDataFirst = false
  /** Bytes that may still be written before the disk counts as full. */
  bytesLeft: number | null = null
  /** Refuses to open files for writing. */
  readOnly = false
  /** Whether renaming onto an existing file replaces it; hosts differ. */
  renameReplaces = true
  /** How FTP lists: facts for a machine, or as old servers do, without MLSD and EPSV, as `ls -l` or `dir` write it. */
  listing: 'facts' | 'unix' | 'dos' = 'facts'
  /** PASV names an address of a network of the host's own, as a host behind another that translates addresses does. */
  wrongPassive = false
  /** How many connections FTP takes at once; null for any number. */
  connections: number | null = null
  /** Asks for the password as a question only (RFC 4256), as some hosts do. */
  keyboardOnly = false
  /** Keeps what an account makes to itself, as a host with a strict mask does. */
  closedFiles = false
  /** Does not let rights be changed over FTP. */
  fixedRights = false
  /** Ends of the paths of what no account may read: a file's, or a folder's that cannot be looked into. */
  readonly shut = new Set<string>()
  /** Takes names that differ in case alone for one, as disks of Windows and macOS do. */
  foldsCase = false
  /** Letters of the longest name it takes; null for what the disk takes. */
  longestName: number | null = null
  /** How far its clock is ahead; negative where it is behind. */
  clockSeconds = 0
  /** What becomes of a time that it is told a file was changed: set, set as one of another zone, refused, or left as it was. */
  times: 'set' | 'of its zone' | 'refused' | 'left' = 'set'
  /** What visitors get for a folder's address without the slash: led on to the one with it, its home page, or nothing. */
  slashes: 'added' | 'not wanted' | 'needed' = 'added'
  /** Files that are shown for a folder, the first that is there. */
  homeFiles: readonly string[] = usualHomeFiles
  /** Requests that are never answered: `SUBSYSTEM`, `OPENDIR`, `READDIR`, `READ`, `STAT`, `WRITE` … */
  readonly never = new Set<string>()
  /** How many requests have been left without an answer. */
  unanswered = 0
  /** Requests answered with a bare failure, as many times as is said; `RENAME` counts too. */
  readonly failures = new Map<string, number>()
  /** Goes on for ever: the listing of a folder, folders in folders, the contents of a file. */
  endless: 'folder' | 'tree' | 'file' | null = null

  /** Commands that FTP was sent in one piece, at most; counted anew as a test wants. */
  mostAtOnce = 0
  /** Files that visitors were sent, and those they were told they have. */
  readonly visitors = { sent: 0, told: 0 }
  /** Requests there have been, over all connections; counted anew as a test wants. */
  requests = 0
  #watched: { readonly count: number; readonly what: () => void } | null = null

  /** Does something at the request of this number, counted from the last `reset`, before it is answered. */
  onRequest(count: number, what: () => void): void {
    this.#watched = { count, what }
  }

  /** Whether any connection has handed over a password. */
  seenPassword = false

  readonly #cutters: (() => void)[] = []

  onCut(cut: () => void): void {
    this.#cutters.push(cut)
  }

  /** Cuts every open connection now. */
  cut(): void {
    for (const cut of this.#cutters) cut()
  }

  #failing: { name: string; after: number } | null = null

  /** Answers one request with a bare failure: the one after so many of its kind. */
  failAfter(name: string, count: number): void {
    this.#failing = { name, after: count + 1 }
  }

  /** Turns everything off again, whatever a test left on. */
  reset(): void {
    this.delayMs = 0
    this.bytesPerSecond = null
    this.#lineFreeAt = 0
    this.oneAtATime = false
    this.endsDataFirst = false
    this.cutAfterFiles = null
    this.bytesLeft = null
    this.readOnly = false
    this.renameReplaces = true
    this.keyboardOnly = false
    this.closedFiles = false
    this.fixedRights = false
    this.foldsCase = false
    this.clockSeconds = 0
    this.slashes = 'added'
    this.homeFiles = usualHomeFiles
    this.times = 'set'
    this.shut.clear()
    this.longestName = null
    this.listing = 'facts'
    this.wrongPassive = false
    this.connections = null
    this.never.clear()
    this.unanswered = 0
    this.failures.clear()
    this.endless = null
    this.#failing = null
    this.requests = 0
    this.mostAtOnce = 0
    this.#watched = null
  }

  /**
   * Resolves when the request may go on: at once, late, or never.
   * @param cameAt when it came, as `Date.now` tells it
   */
  async beforeRequest(name: string, cameAt = Date.now()): Promise<void> {
    this.requests += 1
    if (this.#watched && this.requests >= this.#watched.count) {
      const { what } = this.#watched
      this.#watched = null
      what()
    }
    if (this.never.has(name)) {
      this.unanswered += 1
      await new Promise(() => {})
    }
    const waitMs = cameAt + this.delayMs - Date.now()
    if (waitMs > 0) await new Promise((resolve) => setTimeout(resolve, waitMs))
    if (this.#failing?.name === name && --this.#failing.after === 0) {
      this.#failing = null
      throw new Error('Failure')
    }
    const left = this.failures.get(name) ?? 0
    if (left <= 0) return
    this.failures.set(name, left - 1)
    throw new Error('Failure')
  }

  /** What time it is, as the host believes. */
  now(): Date {
    return new Date(Date.now() + this.clockSeconds * 1_000)
  }

  /** The time that a file is given when it is said to be of one; null where it keeps its own. What refuses, says so. */
  timeFor(said: Date): Date | null {
    if (this.times === 'refused') throw new Error('Failure')
    if (this.times === 'left') return null
    return this.times === 'set' ? said : new Date(said.getTime() + 7_200_000)
  }

  beforeRead(name: string): void {
    const at = name.replace(/\/$/, '')
    if ([...this.shut].some((end) => at.endsWith(end)))
      throw Object.assign(new Error(`${name} cannot be read`), { code: 'EACCES' })
  }

  beforeOpen(name: string, write: boolean): void {
    if (write && this.readOnly)
      throw Object.assign(new Error(`${name} cannot be written`), { code: 'EACCES' })
  }

  /** Resolves when so many bytes have come over the line, behind those before them. */
  async overLine(byteCount: number): Promise<void> {
    if (this.bytesPerSecond === null) return
    const now = Date.now()
    this.#lineFreeAt = Math.max(now, this.#lineFreeAt) + (1_000 * byteCount) / this.bytesPerSecond
    await new Promise((resolve) => setTimeout(resolve, this.#lineFreeAt - now))
  }

  /** Bytes of a file as they come over the line. */
  readonly line = async function* (this: Faults, pieces: AsyncIterable<Buffer>) {
    for await (const piece of pieces) {
      await this.overLine(piece.length)
      yield piece
    }
  }.bind(this)

  beforeWrite(byteCount: number): void {
    if (this.bytesLeft === null) return
    if (this.bytesLeft < byteCount)
      throw Object.assign(new Error('No space left on device'), { code: 'ENOSPC' })
    this.bytesLeft -= byteCount
  }

  afterRename(): void {
    if (this.cutAfterFiles === null) return
    this.cutAfterFiles -= 1
    if (this.cutAfterFiles > 0) return
    this.cutAfterFiles = null
    this.cut()
  }
}
