/** Where a window keeps what the server does not have yet: by name, as plain data. */
export interface Keep {
  /** Keeps it; false when there is no room or no storage, so that it is in memory only. */
  put(name: string, value: unknown): boolean
  remove(name: string): void
}

type LockManagerLike = Pick<LockManager, 'request'>
type StorageLike = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>

const lockOf = (windowId: string) => `rubricant window ${windowId}`

/**
 * What one window has typed and the server does not have, in the browser's storage, so that it outlives
 * the window however that ends. A window holds a lock for as long as it lives (Web Locks API): what is
 * kept under the name of one without a lock was left behind, and is taken up by the next that opens.
 */
export class KeptWork implements Keep {
  readonly #windowId = crypto.randomUUID()
  readonly #prefix: string

  constructor(
    private readonly storage: StorageLike | null,
    private readonly locks: LockManagerLike | null,
    accountId: string,
    siteId: string,
  ) {
    // What somebody left behind is sent in nobody else's name, also where both share browser and site.
    this.#prefix = `rubricant work ${accountId} ${siteId} `
    // Held until the window is gone.
    void locks?.request(lockOf(this.#windowId), () => new Promise(() => {}))?.catch(() => {})
  }

  put(name: string, value: unknown): boolean {
    try {
      this.storage?.setItem(`${this.#prefix}${this.#windowId} ${name}`, JSON.stringify(value))
      return this.storage !== null
    } catch {
      // No room: the old value would be taken for the latest.
      this.remove(name)
      return false
    }
  }

  remove(name: string): void {
    this.storage?.removeItem(`${this.#prefix}${this.#windowId} ${name}`)
  }

  /** Takes over what windows that are gone have left of this site, oldest window first as it happens. */
  async adopt(take: (name: string, value: unknown) => void): Promise<void> {
    const left = new Set<string>()
    for (let index = 0; index < (this.storage?.length ?? 0); index++) {
      const key = this.storage!.key(index)
      if (key?.startsWith(this.#prefix)) left.add(key.slice(this.#prefix.length).split(' ')[0]!)
    }
    left.delete(this.#windowId)
    for (const windowId of left) {
      const move = () => this.#move(windowId, take)
      // Without locks there is no telling who lives: what is made twice carries an id, and is made once.
      if (!this.locks) move()
      else await this.locks.request(lockOf(windowId), { ifAvailable: true }, (lock) => void (lock && move()))
    }
  }

  #move(windowId: string, take: (name: string, value: unknown) => void): void {
    const prefix = `${this.#prefix}${windowId} `
    const keys: string[] = []
    for (let index = 0; index < this.storage!.length; index++) {
      const key = this.storage!.key(index)
      if (key?.startsWith(prefix)) keys.push(key)
    }
    for (const key of keys) {
      const text = this.storage!.getItem(key)
      this.storage!.removeItem(key)
      try {
        take(key.slice(prefix.length), JSON.parse(text ?? ''))
      } catch {
        // Half written by a browser that crashed: there is nothing to be had from it.
      }
    }
  }
}

/** The keep of this window for what an account does to a site. */
export function keptWorkOf(accountId: string, siteId: string): KeptWork {
  const storage = typeof localStorage === 'undefined' ? null : localStorage
  const locks =
    typeof navigator === 'undefined' ? null : ((navigator.locks as LockManager | undefined) ?? null)
  return new KeptWork(storage, locks, accountId, siteId)
}
