import type { Remark } from '#core/bringing'
import type { Problem, ProblemCode } from '#core/problems'

/** Why one file does not come, told beside its path; what is not among these ends the fetching. */
const why = {
  'not-allowed': 'The host lets this account not read it: it did not come.',
  'not-there': 'It was gone when it was asked for.',
  'host-refused': 'The host did not give it: it did not come.',
  'odd-name':
    'Its name is not written in UTF-8, and SFTP cannot ask for it: fetch it over FTP, or rename it there.',
  'too-much': 'It went on beyond the size that the host tells: it did not come.',
  'bad-input': 'Its path is none that a file can have here: it did not come.',
} satisfies Partial<Record<ProblemCode, string>>

/** Of files that did not come, as many are told. */
const mostTold = 1_000

/** What stands at a host and does not come with the rest: a site is not held back by a file that is locked. */
export class LeftOut {
  readonly told: Remark[] = []

  /** Leaves a file or a folder out for what is wrong with it alone; false for what concerns all of them. */
  add = (path: string, { code }: Problem): boolean => {
    if (!Object.hasOwn(why, code)) return false
    if (this.told.length < mostTold) this.told.push({ path, why: why[code as keyof typeof why] })
    return true
  }
}
