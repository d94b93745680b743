/** How a date is written, by how much of it is said. */
const forms: Readonly<Record<number, Intl.DateTimeFormatOptions>> = {
  4: { year: 'numeric' },
  7: { year: 'numeric', month: 'long' },
  10: { year: 'numeric', month: 'long', day: 'numeric' },
}

const known = new Map<string, Intl.DateTimeFormat>()
/** A site has a few languages, and each three forms. */
const mostKnown = 200

function formatOf(language: string, length: number): Intl.DateTimeFormat {
  const key = `${language} ${length}`
  let format = known.get(key)
  if (!format) {
    // Of a tag that is not well formed nothing is known; English is what the templates that ship speak.
    const [tag = 'en'] = canonical(language)
    // "14 June 2025": most that write English begin with the day.
    const said = tag === 'en' ? 'en-GB' : tag
    format = new Intl.DateTimeFormat(said, { ...forms[length], calendar: 'gregory', timeZone: 'UTC' })
    if (known.size >= mostKnown) known.clear()
    known.set(key, format)
  }
  return format
}

function canonical(language: string): readonly string[] {
  try {
    return Intl.getCanonicalLocales(language)
  } catch {
    return []
  }
}

/**
 * A date as people who read a language write it: `14 June 2025`, `June 2025`, `2025`.
 * @param date `2025`, `2025-06` or `2025-06-14`
 * @param language BCP 47 tag
 */
export function writeDate(date: string, language: string): string {
  if (!(date.length in forms)) return date
  const [year = 0, month = 1, day = 1] = date.split('-').map(Number)
  return formatOf(language, date.length).format(Date.UTC(year, month - 1, day))
}
