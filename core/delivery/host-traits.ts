import { clashKey } from '#core/naming'

/** What was found out about a web host by trying it. What is not known yet is left out. */
export interface HostTraits {
  /** Whether `About.html` and `about.html` are two files there. */
  readonly tellsCase?: boolean
  /** Whether renaming onto a file that is there replaces it. */
  readonly replaces?: boolean
  /** Whether what is made there is open to visitors, or to its account alone until its rights are set. */
  readonly opens?: boolean
  /** Connections that it took at once, where it took fewer than were asked for. */
  readonly connections?: number
  /** Whether it does commands that come at once one after the other (pipelining); false where it drops all but the first. */
  readonly pipelines?: boolean
  /** Letters of the longest file name that it takes, where that is shorter than any that is usual. */
  readonly longestName?: number
}

/** What a host knows a path by: two of one key are one file there. */
export const keyAt = ({ tellsCase }: HostTraits, path: string): string =>
  tellsCase === false ? clashKey(path) : path

/** Of some paths those that a host cannot take, since a name in them is too long for it. */
export function tooLongFor({ longestName }: HostTraits, paths: readonly string[]): string[] {
  if (longestName === undefined) return []
  return paths.filter((path) => path.split('/').some((step) => step.length > longestName))
}

/** What a host does otherwise than most, a sentence each. */
export function sayTraits(traits: HostTraits): string[] {
  const { tellsCase, replaces, opens, connections, pipelines, longestName } = traits
  return [
    tellsCase === false ? 'takes About.html and about.html for one file' : null,
    replaces === false ? 'does not rename onto a file that is there, so that one steps aside first' : null,
    opens === false ? 'keeps new files to its account, so their rights are set' : null,
    connections === undefined
      ? null
      : `takes ${connections === 1 ? 'one connection' : `${connections} connections`} at a time`,
    pipelines === false ? 'takes one command at a time, which makes it slower' : null,
    longestName === undefined ? null : `takes names of up to ${longestName} letters`,
  ].filter((sentence) => sentence !== null)
}
