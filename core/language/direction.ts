/** Scripts that are written from right to left (Unicode UAX #9), and languages that are usually written in one. */
const rightToLeftScripts = /^(adlm|arab|aran|hebr|mand|nkoo|rohg|samr|syrc|thaa)$/
const rightToLeftLanguages = /^(ar|arc|ckb|dv|fa|he|iw|ks|ps|sd|syr|ug|ur|yi)$/

/** Which way a language is written, by its tag (BCP 47): its script says it, else what is usual. */
export function directionOf(language: string): 'ltr' | 'rtl' {
  const [primary = '', ...more] = language.toLowerCase().split('-')
  const script = more.find((part) => /^[a-z]{4}$/.test(part))
  return (script ? rightToLeftScripts.test(script) : rightToLeftLanguages.test(primary)) ? 'rtl' : 'ltr'
}
