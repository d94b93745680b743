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
  /** Whether it can be told when a file was last changed. */
  readonly setsTimes?: boolean
  /** How far its clock is ahead of ours, in whole minutes, where that is more than a moment; negative where it is behind. */
  readonly clockSeconds?: number
  /** Whether visitors get the home file of a folder at the folder's address. */
  readonly showsHome?: boolean
  /** Whether a folder's address without the slash at its end leads to the one with it. */
  readonly addsSlash?: boolean
}

/** What a host knows a path by: two of one key are one file there. */
export const keyAt = ({ tellsCase }: HostTraits, path: string): string =>
  tellsCase === false ? clashKey(path) : path

/** Of some paths those that a host cannot take, since a name in them is too long for it. */
export function tooLongFor({ longestName }: HostTraits, paths: readonly string[]): string[] {
  if (longestName === undefined) return []
  return paths.filter((path) => path.split('/').some((step) => step.length > longestName))
}

const units = [
  ['day', 86_400],
  ['hour', 3_600],
  ['minute', 60],
] as const

/** A length of time in its largest unit. */
function sayDuration(seconds: number): string {
  const [unit, size] = units.find(([, one]) => seconds >= one) ?? units[2]
  const count = Math.round(seconds / size)
  return `${count} ${unit}${count === 1 ? '' : 's'}`
}

/** What a host does otherwise than most, a sentence each. */
export function sayTraits(traits: HostTraits): string[] {
  const { tellsCase, replaces, opens, connections, pipelines, longestName } = traits
  const { setsTimes, clockSeconds = 0, showsHome, addsSlash } = traits
  return [
    tellsCase === false ? 'takes About.html and about.html for one file' : null,
    replaces === false ? 'does not rename onto a file that is there, so that one steps aside first' : null,
    opens === false ? 'keeps new files to its account, so their rights are set' : null,
    connections === undefined
      ? null
      : `takes ${connections === 1 ? 'one connection' : `${connections} connections`} at a time`,
    pipelines === false ? 'takes one command at a time, which makes it slower' : null,
    longestName === undefined ? null : `takes names of up to ${longestName} letters`,
    clockSeconds === 0
      ? null
      : `has a clock that is ${sayDuration(Math.abs(clockSeconds))} ${clockSeconds > 0 ? 'ahead of' : 'behind'} the one here, so that ` +
        (setsTimes === false
          ? 'files bear another time there'
          : 'files are given the time here as they are sent'),
    setsTimes === false && clockSeconds === 0 ? 'keeps its own times for files' : null,
    showsHome === false ? 'shows no home page at the address of a folder' : null,
    addsSlash === false ? 'needs the slash at the end of a folder’s address' : null,
  ].filter((sentence) => sentence !== null)
}
