/** The table that spells every script in ASCII: at once in Node.js, when it is first needed in a browser. */
export interface Spelling {
  /** One sign in ASCII; '' for one without a spelling, or while the table is not there yet. */
  readonly spell: (sign: string) => string
  /** Resolves when the table is there. */
  readonly load: () => Promise<void>
  /** Calls back once when the table has come after something was spelled without it. */
  readonly whenLate: (listener: () => void) => () => void
}
