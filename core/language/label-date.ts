/** A date as it stands at the front of a name, and what is left of the label. */
export interface LabelDate {
  /** `2025`, `2025-06` or `2025-06-14`: sorts as it reads (ISO 8601). */
  readonly date: string
  readonly rest: string
}

/** Names of the months in a language, in lower case: as they stand alone, beside a day, and shortened. */
function monthNamesIn(language: string): readonly (readonly string[])[] {
  const formats = [{ month: 'long' }, { day: 'numeric', month: 'long' }, { month: 'short' }] as const
  const nameOf = (format: Intl.DateTimeFormat, month: number) =>
    format
      .formatToParts(Date.UTC(2000, month, 15))
      .find(({ type }) => type === 'month')!
      .value.toLowerCase()
      .replace(/\.$/, '')
  return Array.from({ length: 12 }, (_, month) =>
    formats.map((parts) =>
      nameOf(new Intl.DateTimeFormat(language, { ...parts, timeZone: 'UTC', calendar: 'gregory' }), month),
    ),
  )
}

const known = new Map<string, readonly (readonly string[])[]>()
/** Languages are few, and tags that look like some are many. */
const mostKnown = 200

/** The same, made once for each language; English for a tag that is none. */
function monthNames(language: string): readonly (readonly string[])[] {
  let names = known.get(language)
  if (!names) {
    const isTag = /^[a-z]{2,8}$/.test(language)
    if (known.size >= mostKnown) known.clear()
    known.set(language, (names = monthNamesIn(isTag ? language : 'en')))
  }
  return names
}

/** Number of a month from its name or the first three letters of it, or null. */
function monthOf(word: string, language: string): number | null {
  const spelled = word.toLowerCase().replace(/\.$/, '')
  for (const months of [monthNames(language), monthNames('en')]) {
    const at = months.findIndex((names) =>
      names.some((name) => name === spelled || (spelled.length >= 3 && name.startsWith(spelled))),
    )
    if (at >= 0) return at + 1
  }
  return null
}

const two = (number: number) => String(number).padStart(2, '0')

function dateOf(year: number, month: number | null, day: number | null): string | null {
  if (year < 1000 || year > 2999) return null
  if (month === null) return String(year)
  if (month < 1 || month > 12) return null
  if (day === null) return `${year}-${two(month)}`
  const last = [
    31,
    year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28,
    31,
    30,
    31,
    30,
    31,
    31,
    30,
    31,
    30,
    31,
  ]
  return day >= 1 && day <= last[month - 1]! ? `${year}-${two(month)}-${two(day)}` : null
}

type Reader = readonly [RegExp, (match: RegExpExecArray, language: string) => string | null]

/** Common ways of writing a date, the more definite first. Day before month where both are numbers. */
const readers: readonly Reader[] = [
  [/(?<!\d)(\d{4})-(\d{1,2})-(\d{1,2})(?!\d)/u, (m) => dateOf(+m[1]!, +m[2]!, +m[3]!)],
  [/(?<!\d)(\d{1,2})[./](\d{1,2})[./](\d{4})(?!\d)/u, (m) => dateOf(+m[3]!, +m[2]!, +m[1]!)],
  [/(?<![\p{L}\d])(\d{1,2})(?:st|nd|rd|th|\.)?\s+(?:of\s+|de\s+)?(\p{L}{3,}\.?)(?:\s+de)?,?\s+(\d{4})(?!\d)/u, (m, l) => withMonth(m[3]!, m[2]!, m[1]!, l)],
  [/(?<!\p{L})(\p{L}{3,}\.?)\s+(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})(?!\d)/u, (m, l) => withMonth(m[3]!, m[1]!, m[2]!, l)],
  [/(?<!\p{L})(\p{L}{3,}\.?)(?:\s+de)?,?\s+(\d{4})(?!\d)/u, (m, l) => withMonth(m[2]!, m[1]!, null, l)],
  [/(?<!\d)(\d{4})-(\d{1,2})(?![\d-])/u, (m) => dateOf(+m[1]!, +m[2]!, null)],
  [/(?<![\d–—-])(\d{4})(?!\s*[\d–—-])/u, (m) => dateOf(+m[1]!, null, null)],
] // prettier-ignore

function withMonth(year: string, word: string, day: string | null, language: string): string | null {
  const month = monthOf(word, language)
  return month === null ? null : dateOf(+year, month, day === null ? null : +day)
}

/**
 * Finds the date in a label and takes it out: `Second count, June 2025` is `2025-06` and
 * `Second count`. Null when there is none, or none that exists.
 * @param language BCP 47 tag; month names of English are always read
 */
export function readLabelDate(label: string, language: string): LabelDate | null {
  const tongue = language.toLowerCase().split('-')[0] ?? ''
  for (const [pattern, read] of readers) {
    const match = pattern.exec(label)
    const date = match && read(match, tongue)
    if (!date) continue
    const rest = `${label.slice(0, match.index)} ${label.slice(match.index + match[0].length)}`
    return { date, rest: rest.replace(/\s+/g, ' ').replace(/^[\s,;:–—-]+|[\s,;:–—-]+$/gu, '') }
  }
  return null
}

/** A date an author sets for a page: the same three forms, or null when it is none. */
export function checkDate(text: string): string | null {
  const match = /^(\d{4})(?:-(\d{2})(?:-(\d{2}))?)?$/.exec(text.trim())
  return match ? dateOf(+match[1]!, match[2] ? +match[2] : null, match[3] ? +match[3] : null) : null
}
