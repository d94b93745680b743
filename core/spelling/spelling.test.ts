import { describe, expect, test } from '@jest/globals'
import { buildITrieFromWords, encodeITrieToBTrie } from 'cspell-trie-lib'
import fc from 'fast-check'
import type { TextKind } from '#core/find'
import { anySign } from '../testing/signs'
import { type Dictionary, dictionaryOf } from './dictionary'
import { dictionariesFor, type DictionaryName } from './languages'
import { ownWords } from './own-words'
import { Speller } from './unknown-words'
import { eachWord } from './words-in'

const lists: Partial<Record<DictionaryName, string>> = {
  'en-GB': "the light lighthouse keeper and a tide tides Monday colour it's well known pier's is open see of",
  'en-US': 'the light color is open',
  de: 'das Licht Leuchtturm Wärter Küste Wacht Straße leuchten der ist und',
  fr: 'le phare île eau est aujourd’hui ouvert',
}
const made = new Map<DictionaryName, Dictionary>()
function dictionaryCalled(name: DictionaryName): Dictionary {
  const words = (lists[name] ?? '').split(' ')
  if (!made.has(name)) made.set(name, dictionaryOf(new Uint8Array(encodeITrieToBTrie(buildITrieFromWords(words)))))
  return made.get(name)!
} // prettier-ignore
const speller = new Speller(dictionaryCalled)

const look = (text: string, language = 'en', kind: TextKind = 'html') => speller.look(text, kind, language)
const unknown = (text: string, language = 'en', kind: TextKind = 'html') =>
  look(text, language, kind).unknown.map(({ word }) => word)

describe('a word is right', () => {
  test.each([
    ['in any capitals that its place may give it', 'The LIGHT is Open; Tides', 'en', []],
    ['but a name with a small letter is not', 'monday MONDAY Monday', 'en', ['monday']],
    ['by either spelling where no country is said', 'colour color', 'en', []],
    ['by that of the country where one is', 'colour color', 'en-US', ['colour']],
    ['by that of the country where one is', 'colour color', 'en-NZ', ['color']],
    ['with any apostrophe, and what stands behind one', 'it’s, it\'s the keeper’s, a tide\'s', 'en', []],
    ['after what lost its end', 'L’eau d’île, l\'ile', 'fr', ['ile']],
    ['with the apostrophe of its dictionary', "aujourd'hui, aujourd’hui", 'fr', []],
    ['as it is written with hyphens, or each part of it', 'well-known light-keeper tide‑tabel', 'en', ['tabel']],
    ['where it is made of others', 'Leuchtturmwärter Küstenwacht Leuchtturmwärterinnen', 'de', ['Leuchtturmwärterinnen']],
    ['and not where it is made of anything', 'lighttide', 'en', ['lighttide']],
    ['without ß where there is none', 'Strasse', 'de-CH', []],
    ['and with it elsewhere', 'Strasse', 'de', ['Strasse']],
  ])('%s: %s (%s)', (_, text, language, expected) => {
    expect(unknown(text, language, 'words')).toEqual(expected)
  }) // prettier-ignore

  test('where its site keeps it, and so does what is made of it', () => {
    const own = ownWords(['Marrow', 'skerry'])
    expect(['Marrow', "Marrow's", 'MARROW', 'skerry', 'Skerry', 'SKERRY', "Skerry's"].filter((word) => !own(word))).toEqual([])
    expect(['marrow', 'skerries', "'s", 'Marr'].filter(own)).toEqual([])
  }) // prettier-ignore
})

test('what is no word is not looked up', () => {
  const text =
    'a.keeper@skerry.example https://x.example/abcd www.abcd.ef images/abcd/efgh.jpg C:\\abcd {abcd} abcd_efgh 12th 4x4 RSPB ABs x iDeal abcd=1 Ебб'
  const words = (text: string) => {
    const found: [string, number, number][] = []
    eachWord(text, ({ word, start, end }, at) => found.push([word, at + start, at + end]))
    return found
  }
  expect(words(text)).toEqual([])
  expect(words('(the, “light”! and/or')).toEqual([
    ['the', 1, 4],
    ['light', 7, 12],
    ['and', 15, 18],
    ['or', 19, 21],
  ])
})

describe('of a text', () => {
  test('what visitors read and hear is looked at, each in the language that it is in', () => {
    const text = `<p class="abcd" title="Ttitle">The ligt</p><!-- abcd -->
      <style>.abcd {}</style><code>abcd</code><p translate="no">abcd <b translate="yes">yyes</b></p>
      <p spellcheck="false">abcd</p><p lang="de_AT">Das Lict <i lang="fr">le phaare</i> is</p><p lang="it">la luce</p>
      <img src="abcd.png" alt="The pierr"><p lang="">abcd</p>`
    const { unknown, without } = look(text)
    expect(unknown.map(({ word, language, line }) => [word, language, line])).toEqual([
      ['Ttitle', 'en', 1],
      ['ligt', 'en', 1],
      ['yyes', 'en', 2],
      ['Lict', 'de-AT', 3],
      ['phaare', 'fr', 3],
      ['is', 'de-AT', 3],
      ['pierr', 'en', 4],
    ])
    expect(without).toEqual(['it', ''])
    const endless = `de-x-${'abcdefgh-'.repeat(9)}abc`
    expect(look(`<p lang="${endless}">das Lict`)).toEqual({ unknown: [], without: [''] })
  })

  test('a word goes on through what stands within lines, and ends where something else begins', () => {
    expect(unknown('<p><b>L</b>ight<wbr>house li&shy;ght k<i>ee</i>per</p>')).toEqual([])
    expect(unknown('<p>light<br>house<p>ti<div>de')).toEqual(['house', 'ti', 'de'])
    expect(unknown('<p>the&nbsp;k&eacute;&eacute;per')).toEqual(['kééper'])
  })

  test('of a template nothing that stands for something else', () => {
    expect(
      unknown('<html lang="{language}"><title>{page} of titel</title><p>li{site}ght', 'en', 'template'),
    ).toEqual(['titel', 'li', 'ght'])
    expect(unknown('{page} – the sitee', 'en', 'pattern')).toEqual(['sitee'])
    expect(unknown('.abcd { }', 'en', 'source')).toEqual([])
  })

  test('a word is told without what may stand beside any', () => {
    const [keepr, ...others] = look('The Keepr’s tide; they see Keepr; Keeprs').unknown
    expect(keepr).toMatchObject({
      word: 'Keepr',
      count: 2,
      before: 'The ',
      after: '’s tide; they see Keepr; Keeprs',
    })
    expect(others.map(({ word }) => word)).toEqual(['they', 'Keeprs'])
    expect(unknown('L’ilot d’ilot', 'fr')).toEqual(['ilot'])
  })

  test('it is told how often and where first', () => {
    const text = `<p>${'the light '.repeat(9)}</p>\n<p>see\nthe <b>keepr</b> of the ${'light and '.repeat(20)}</p><p>keepr</p>`
    expect(look(text).unknown).toEqual([
      { word: 'keepr', language: 'en', count: 2, line: 3, before: 'see the ', after: ` of the${' light and'.repeat(4)}…` },
    ])
    expect(look(`${'the a '.repeat(20)}\nkeepr`, 'en', 'words').unknown[0]).toMatchObject({ line: 2, before: `…${'the a '.repeat(8)}` })
  }) // prettier-ignore
})

test('a word that stands twice in a row is told, where sentences have no such', () => {
  expect(unknown('<p>The the light\n  light, light of <b>of</b> and. And the<p>the')).toEqual(['The the', 'light light', 'of of'])
  expect(unknown('that he had had; la la', 'de', 'words')).toEqual(['that', 'he', 'had', 'had had', 'la'])
  expect(unknown('das das', 'de')).toEqual([])
  expect(unknown('light Light LIGHT 12 12')).toEqual([])
  expect(speller.knownIn('en')!.near('The the')).toEqual(['The'])
}) // prettier-ignore

test('what is meant is told, the nearest first, with the capitals that were there', () => {
  const near = (word: string, language = 'en') => speller.knownIn(language)!.near(word)
  expect(near('ligthouse')[0]).toBe('lighthouse')
  expect(near('Ligthouse')[0]).toBe('Lighthouse')
  expect(near('LIGTHOUSE')[0]).toBe('LIGHTHOUSE')
  expect(near('Leuchttrum', 'de')[0]).toBe('Leuchtturm')
  expect(near('xxxxxxxxxxxx')).toEqual([])
})

test('dictionaries are those of the language, its country and its letters', () => {
  expect(dictionariesFor('en')).toEqual(['en-GB', 'en-US'])
  expect(dictionariesFor('en-AU')).toEqual(['en-GB'])
  expect(dictionariesFor('EN-us')).toEqual(['en-US'])
  expect(dictionariesFor('de-AT')).toEqual(['de'])
  expect(dictionariesFor('pt')).toEqual([])
  for (const tag of ['', '-', 'it', 'constructor', '__proto__', 'de-Cyrl', 'no language'])
    expect(dictionariesFor(tag)).toEqual([])
})

test('of any text each word that is told stands in it, at its line', () => {
  const piece = fc.oneof(fc.constantFrom('ligt', 'the ', ' ', '\n', '<p>', '</p>', '<b>', '<i lang=de>', '</i>', '&amp;', "'", '-', '<td>'), anySign)
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
      const text = pieces.join('').replace(/\r/g, '')
      for (const { word, line, count } of look(text).unknown) {
        expect(count).toBeGreaterThan(0)
        // Tags may part it, and its letters may be composed of several.
        const letters = [...word].filter((sign) => /[a-z]/.test(sign))
        const lines = text.split('\n').slice(line - 1).join('\n')
        for (const letter of letters) expect(lines).toContain(letter)
      }
    }),
  )
}) // prettier-ignore

test('of a text of nothing but unknown words as many are told as anybody reads', () => {
  const words = Array.from(
    { length: 3_000 },
    (_, nth) => `qx${nth.toString(26).replace(/\d/g, (d) => 'uvwxyzqrst'[Number(d)]!)}`,
  )
  expect(new Set(words).size).toBeGreaterThan(2_500)
  const { unknown } = look(`${words.join(' ')} ${words.join(' ')}`, 'en', 'words')
  expect(unknown).toHaveLength(1_000)
  expect(unknown.every(({ count }) => count >= 2)).toBe(true)
})
