import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { expect, test } from '@jest/globals'
import { parseHtml } from '#core/markup'
import { defaultTemplate, inLanguage } from '../index'
import { english, wordings } from './wordings'

test('a shipped template speaks the language of its site, and says which way it is written', () => {
  expect(inLanguage(defaultTemplate, 'en-GB')).toBe(defaultTemplate)
  expect(inLanguage(defaultTemplate, 'tlh')).toBe(defaultTemplate)
  const german = inLanguage(defaultTemplate, 'de-AT')
  expect(german).toContain('<a class="skip-link" href="#content">Zum Inhalt springen</a>')
  expect(german).toContain('<site-menu levels="1" own="mark" aria-label="Hauptmenü"></site-menu>')
  expect(german).toContain('<html lang="{language}">')
  expect(inLanguage(defaultTemplate, 'he')).toContain('<html lang="{language}" dir="rtl">')
  expect(inLanguage(defaultTemplate, 'fa')).toBe(defaultTemplate.replace('"{language}"', '"{language}" dir="rtl"'))
  // Made once more, nothing is left to say.
  expect(inLanguage(german, 'de')).toBe(german)
  expect(inLanguage('<html dir="ltr"><p>Main street</p><p title="Main">x</p>', 'ar')).toBe('<html dir="ltr"><p>Main street</p><p title="Main">x</p>')
}) // prettier-ignore

test('all that shipped templates say is known in every language', () => {
  for (const words of Object.values(wordings)) {
    expect(words).toHaveLength(english.length)
    expect(new Set(words.map((word) => word.toLowerCase())).size).toBe(english.length)
  }
  const templates = readdirSync('kits', { recursive: true, encoding: 'utf8' }).filter((name) => name.endsWith('.html'))
  expect(templates.length).toBeGreaterThan(5)
  for (const name of templates) {
    const source = readFileSync(path.join('kits', name), 'utf8')
    for (const language of Object.keys(wordings)) {
      const made = inLanguage(source, language)
      const left = english.filter((word) => made.includes(`"${word}"`) || made.includes(`>${word}<`))
      expect([name, language, left]).toEqual([name, language, []])
      expect(parseHtml(made, true).errors).toEqual(parseHtml(source, true).errors)
    }
    // What is said in English in one of them, and stands nowhere in the table.
    const unknown = [...source.matchAll(/aria-label="([^"{]+)"|>([^<>{}\n]*[A-Za-z]{2}[^<>{}\n]*)</g)].map((one) => one[1] ?? one[2]!)
    expect(unknown.filter((word) => !(english as readonly string[]).includes(word))).toEqual([])
  }
}) // prettier-ignore
