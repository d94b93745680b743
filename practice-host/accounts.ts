import { createHash, createHmac, timingSafeEqual } from 'node:crypto'
import fs from 'node:fs/promises'
import path from 'node:path'

/** The account that all of the space is given to. */
export const practiceAccount = 'keeper'
const publicFolder = 'public'
const ownAccount = /^[a-z][a-z0-9-]{7,39}$/

const digest = (text: string) => createHash('sha256').update(text).digest()

/**
 * Who may sign in, and what they see as `/`: the keeper all of the space, with the password that was made for it;
 * anybody else a space of their own, with the HMAC (SHA-256, base64url) of the account's name under that password.
 */
export class Accounts {
  constructor(
    private readonly folder: string,
    private readonly password: string,
  ) {}

  /** The folder on disk that an account sees, made when it is first asked for; null where the password is wrong. */
  async rootFor(account: string, password: string): Promise<string | null> {
    const isKeeper = account === practiceAccount
    const right = isKeeper
      ? this.password
      : createHmac('sha256', this.password).update(account).digest('base64url')
    const fits = timingSafeEqual(digest(password), digest(right))
    if (!fits || !(isKeeper || ownAccount.test(account))) return null
    if (isKeeper) return this.#keepers
    await fs.mkdir(this.#publicOf(account), { recursive: true })
    return path.join(this.folder, 'accounts', account)
  }

  /**
   * The folder of an account that has put a key into its list (`.ssh/authorized_keys`, as sshd(8) has it); null for any other.
   * @param key algorithm and base64 of a public key, as a line of the list begins
   */
  async rootForKey(account: string, key: string): Promise<string | null> {
    const isKeeper = account === practiceAccount
    if (!isKeeper && !ownAccount.test(account)) return null
    const root = isKeeper ? this.#keepers : path.join(this.folder, 'accounts', account)
    const list = await fs.readFile(path.join(root, '.ssh', 'authorized_keys'), 'utf8').catch(() => '')
    return list.split(/\r?\n/).some((line) => line.startsWith(`${key} `) || line === key) ? root : null
  }

  get #keepers(): string {
    return path.join(this.folder, 'space')
  }

  #publicOf = (account: string) => path.join(this.folder, 'accounts', account, publicFolder)

  /** What the public address shows at a path, from `/`: `/~account/…` is an account's own. */
  shownAt(wanted: string): { readonly root: string; readonly path: string } {
    const [, account, rest] = /^\/~([^/]+)(\/.*|)$/s.exec(wanted) ?? []
    return account !== undefined && ownAccount.test(account)
      ? { root: this.#publicOf(account), path: rest || '/' }
      : { root: path.join(this.#keepers, publicFolder), path: wanted }
  }
}
