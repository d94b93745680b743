import type { Declared, DeclaredAt } from './sheet-rules'

/** Custom properties of an element, its own and what it takes over, and where each was said. */
export type Customs = ReadonlyMap<string, { readonly value: string; readonly at: DeclaredAt }>

/** What a value is with what its variables stand for, and where that is written. */
export interface Substituted {
  readonly value: string
  readonly at: DeclaredAt
}

/** A value may grow so long by its variables; one that grows further stands for nothing. */
const longestValue = 20_000
const deepest = 30
/** Variables put into one value; they may name one another without growing. */
const mostPut = 500

/** Where the bracket closes that stands open at a place; -1 where it does not. */
function closing(text: string, from: number): number {
  let depth = 1
  for (let at = from; at < text.length; at++) {
    if (text[at] === '(') depth++
    else if (text[at] === ')' && --depth === 0) return at
  }
  return -1
}

/**
 * Puts in what `var()` stands for (CSS Variables 1 §3).
 * @returns null for a value that is invalid when it is computed: a variable that is not there, a circle, too long
 */
export function substituted(
  { value, at }: Pick<Declared, 'value' | 'at'>,
  customs: Customs,
): Substituted | null {
  let place = at
  let left = mostPut
  const put = (text: string, depth: number): string | null => {
    let made = ''
    let rest = text
    for (;;) {
      const start = rest.search(/\bvar\(/i)
      if (start < 0) break
      const end = closing(rest, start + 4)
      if (end < 0 || depth > deepest || left-- <= 0) return null
      const inner = rest.slice(start + 4, end)
      const comma = inner.indexOf(',')
      const name = (comma < 0 ? inner : inner.slice(0, comma)).trim()
      const known = customs.get(name)
      // Where the whole of it is a variable, that is where the colour is written.
      if (known && start === 0 && end === rest.length - 1 && made === '') place = known.at
      const own = known
        ? put(known.value, depth + 1)
        : comma < 0
          ? null
          : put(inner.slice(comma + 1).trim(), depth + 1)
      if (own === null) return null
      made += rest.slice(0, start) + own
      rest = rest.slice(end + 1)
      if (made.length > longestValue) return null
    }
    return made + rest
  }
  const whole = put(value, 0)
  return whole === null || whole.length > longestValue ? null : { value: whole, at: place }
}
