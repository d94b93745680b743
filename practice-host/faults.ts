/** Switches for what can go wrong at a host. All off unless a test turns one on. */
export class Faults {
  /** Waits this long before each answer. */
  delayMs = 0
  /** Cuts every connection after this many more files have been renamed into place. */
  cutAfterFiles: number | null = null
  /** Bytes that may still be written before the disk counts as full. */
  bytesLeft: number | null = null
  /** Refuses to open files for writing. */
  readOnly = false
  /** Whether renaming onto an existing file replaces it; hosts differ. */
  renameReplaces = true

  readonly #cutters: (() => void)[] = []

  onCut(cut: () => void): void {
    this.#cutters.push(cut)
  }

  /** Cuts every open connection now. */
  cut(): void {
    for (const cut of this.#cutters) cut()
  }

  async beforeRequest(): Promise<void> {
    if (this.delayMs > 0) await new Promise((resolve) => setTimeout(resolve, this.delayMs))
  }

  beforeOpen(name: string, write: boolean): void {
    if (write && this.readOnly)
      throw Object.assign(new Error(`${name} cannot be written`), { code: 'EACCES' })
  }

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
