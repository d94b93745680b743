// Lines of the listings that FTP servers send, in the ways that are about.

/** What is told of a file or a folder. */
export interface Entry {
  readonly isFolder: boolean
  readonly size: number
  readonly mtimeMs: number
  readonly mode: number
}

/** `20260103161500`: a time as MLSD and MDTM tell it, in UTC (RFC 3659 §2.3). */
export const timeOf = (ms: number): string => new Date(ms).toISOString().replace(/\D/g, '').slice(0, 14)

/** Rights as the fact UNIX.mode tells them, which servers of that kind have (a convention beside RFC 3659 §7.5). */
const rightsOf = (mode: number): string => `0${(mode & 0o777).toString(8).padStart(3, '0')}`

/** The facts of an entry as MLSD and MLST tell them (RFC 3659 §7.2). */
export const factLine = (name: string, { isFolder, size, mtimeMs, mode }: Entry): string =>
  `type=${isFolder ? 'dir' : 'file'};size=${size};modify=${timeOf(mtimeMs)};UNIX.mode=${rightsOf(mode)}; ${name}`

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const halfYearMs = 183 * 86_400_000
/** A line as `ls -l` writes it, which old servers send for LIST: of what is older than half a year, the day alone. */
export function unixLine(name: string, { isFolder, size, mtimeMs, mode }: Entry, now: Date): string {
  const modified = new Date(mtimeMs)
  const day = String(modified.getUTCDate()).padStart(2)
  const isOld = now.getTime() - mtimeMs > halfYearMs
  const time = isOld ? ` ${modified.getUTCFullYear()}` : modified.toISOString().slice(11, 16)
  const rights = [...'rwxrwxrwx'].map((letter, at) => ((mode >> (8 - at)) & 1 ? letter : '-')).join('')
  const kind = (isFolder ? 'd' : '-') + rights
  return `${kind} 1 keeper keeper ${size} ${months[modified.getUTCMonth()]} ${day} ${time} ${name}`
}

/** A line as `dir` writes it, which servers on Windows send. */
export function dosLine(name: string, { isFolder, size, mtimeMs }: Entry): string {
  const [year, month, day, hour, minute] = new Date(mtimeMs).toISOString().split(/\D/).map(Number) as [number, number, number, number, number] // prettier-ignore
  const two = (value: number) => String(value).padStart(2, '0')
  const half = `${two(hour % 12 || 12)}:${two(minute)}${hour < 12 ? 'AM' : 'PM'}`
  const what = isFolder ? '<DIR>         ' : String(size).padStart(14)
  return `${two(month)}-${two(day)}-${two(year % 100)}  ${half}       ${what} ${name}`
}
