import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { mergeTexts } from './merge'

/** A text as a page has it: a few words and tags, of which some come often. */
const word = fc.constantFrom('<p>', '</p>', 'Terns', 'nest', 'on', 'the', 'skerry', '\n', '\n', ' ')
const text = fc.array(word, { maxLength: 40 }).map((words) => words.join(' '))

let written = 0
/** Words that nobody wrote before, put into a text in some places, and some of its own taken away. */
const edits = fc.array(
  fc.record({ at: fc.nat(60), remove: fc.nat(2), words: fc.integer({ min: 0, max: 2 }) }),
  { minLength: 1, maxLength: 3 },
)
type Edits = typeof edits extends fc.Arbitrary<infer T> ? T : never
function edited(base: string, made: Edits): { text: string; words: string[] } {
  const tokens = base.split(' ')
  const words: string[] = []
  for (const { at, remove, words: count } of made) {
    const fresh = Array.from({ length: count }, () => `new${written++}`)
    words.push(...fresh)
    tokens.splice(at % (tokens.length + 1), remove, ...fresh)
  }
  // A later edit may have taken away what an earlier one wrote.
  return { text: tokens.join(' '), words: words.filter((one) => tokens.includes(one)) }
}

describe('two texts that were made of one', () => {
  test('keep every word that either of them wrote, or are not put together', () => {
    let merged = 0
    fc.assert(
      fc.property(text, edits, edits, (base, first, second) => {
        const [mine, theirs] = [edited(base, first), edited(base, second)]
        const both = mergeTexts(base, mine.text, theirs.text)
        if (both === null) return
        merged += 1
        for (const one of [...mine.words, ...theirs.words])
          expect(both.split(/\s+|(?=<)|(?<=>)/)).toContain(one)
        // Whoever's comes first, it is the same text.
        expect(mergeTexts(base, theirs.text, mine.text)).toBe(both)
      }),
      { numRuns: 300 },
    )
    // A function that refuses everything keeps every promise above.
    expect(merged).toBeGreaterThan(60)
  })

  test('are the one that was changed where only one was', () => {
    fc.assert(
      fc.property(text, text, (base, other) => {
        expect(mergeTexts(base, other, base)).toBe(other)
        expect(mergeTexts(base, base, other)).toBe(other)
        expect(mergeTexts(base, other, other)).toBe(other)
      }),
    )
  })

  test('merge line by line, and within a line word by word', () => {
    const base = '<h1>Terns</h1>\n<p>They nest on the skerry from May.</p>\n<p>Bring boots.</p>\n'
    const mine = base.replace('from May', 'from late April')
    expect(mergeTexts(base, mine, base.replace('boots', 'boots and a hat'))).toBe(
      mine.replace('boots', 'boots and a hat'),
    )
    expect(mergeTexts(base, mine, base.replace('They', 'Most of them'))).toBe(
      mine.replace('They', 'Most of them'),
    )
    expect(mergeTexts(base, mine, base.replace('from May', 'in June'))).toBeNull()
    // Two paragraphs at one place: which is first is for their authors to say.
    expect(mergeTexts(base, `${base}<p>A</p>\n`, `${base}<p>B</p>\n`)).toBeNull()
  })

  test('that are too much to compare are not put together, and at once', () => {
    const many = (line: string) => `${line}\n`.repeat(30_000)
    expect(mergeTexts(many('a'), `b\n${many('a')}`, `${many('a')}c\n`)).toBeNull()
    // Few enough lines, but each is like each.
    const alike = '\n'.repeat(15_000)
    expect(mergeTexts(`x${alike}`, `y${alike}`, `x${alike}z`)).toBeNull()
  })
})
