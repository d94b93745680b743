// When a file was last changed, as listings of FTP say it in words (RFC 959 §4.1.3 leaves them to the host).

const monthNames = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
/** `12-31-24  11:59PM`, `12-31-2024 23:59`. */
const inNumbers = /^(\d{1,2})-(\d{1,2})-(\d{4}|\d\d)\s+(\d{1,2}):(\d\d)\s*([ap]m)?$/i
/** `2024-12-31 23:59`. */
const inOrder = /^(\d{4})-(\d\d)-(\d\d)(?:[ T]+(\d{1,2}):(\d\d))?/
/** `Dec 31 23:59`, `31 Dec 2024`: the hour of what is younger than half a year, the year of what is older. */
const inWords =
  /^(?:([a-z]{3})[a-z]*\.?\s+(\d{1,2})|(\d{1,2})\.?\s+([a-z]{3})[a-z]*\.?),?\s+(?:(\d{1,2}):(\d\d)|(\d{4}))$/i

/** How far ahead of ours a host's clock and its time of day may be: it says neither. */
const aheadMs = 26 * 3_600_000

/**
 * Seconds since 1970 of a time in words, its time of day taken for UTC; of one that names no hour, of the day's beginning.
 * Null for what is no time. Of a time without a year it is the last one that has come.
 * @param nowMs as `Date.now` tells it
 */
export function listedTime(words: string, nowMs: number): number | null {
  const text = words.trim()
  const numbers = inNumbers.exec(text)
  if (numbers) {
    const [month, day, year, hour, minute] = numbers.slice(1, 6).map(Number) as [number, number, number, number, number] // prettier-ignore
    const half = numbers[6]?.toLowerCase()
    const century = numbers[3]!.length === 4 ? 0 : year < 70 ? 2_000 : 1_900
    const shift = half === undefined ? hour : (hour % 12) + (half === 'pm' ? 12 : 0)
    return seconds(century + year, month - 1, day, shift, minute)
  }
  const ordered = inOrder.exec(text)
  if (ordered) {
    const [year, month, day, hour, minute] = ordered.slice(1).map((part) => Number(part ?? 0)) as [number, number, number, number, number] // prettier-ignore
    return seconds(year, month - 1, day, hour, minute)
  }
  const said = inWords.exec(text)
  if (!said) return null
  const month = monthNames.indexOf((said[1] ?? said[4])!.toLowerCase())
  if (month < 0) return null
  const day = Number(said[2] ?? said[3])
  if (said[7] !== undefined) return seconds(Number(said[7]), month, day, 0, 0)
  const [hour, minute] = [Number(said[5]), Number(said[6])]
  const thisYear = new Date(nowMs + aheadMs).getUTCFullYear()
  const time = seconds(thisYear, month, day, hour, minute)
  return time !== null && time * 1_000 > nowMs + aheadMs
    ? seconds(thisYear - 1, month, day, hour, minute)
    : time
}

function seconds(year: number, month: number, day: number, hour: number, minute: number): number | null {
  if (month > 11 || day < 1 || day > 31 || hour > 23 || minute > 59) return null
  return Date.UTC(year, month, day, hour, minute) / 1_000
}
