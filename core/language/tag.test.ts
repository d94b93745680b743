import { expect, test } from '@jest/globals'
import { languageCalled, languageTag, tagTyped } from './index'

test('a language is taken by its tag, or by its name in English or in itself', () => {
  const typed = [
    'de',
    ' DE ',
    'de_CH',
    'PT-br',
    'German',
    'deutsch',
    'Cymraeg',
    'français',
    'Portuguese',
    'iw',
    'sr-latn',
  ]
  expect(typed.map(tagTyped)).toEqual([
    'de',
    'de',
    'de-CH',
    'pt-BR',
    'de',
    'de',
    'cy',
    'fr',
    'pt',
    'he',
    'sr-Latn',
  ])
  for (const none of ['', 'Klingonian', 'e', 'en-', '"><script>', 'constructor', 'x'.repeat(100_000)])
    expect([none, tagTyped(none)]).toEqual([none, null])
})

test('what comes of it is a tag by its shape', () => {
  for (const typed of ['German', 'zh_hant_tw', 'YUE', 'gsw']) expect(tagTyped(typed)).toMatch(languageTag)
})

test('a label that is what a language calls itself is told, and no other', () => {
  const labels = ['Deutsch', '🇫🇷 Français', '日本語', 'العربية', 'CYMRAEG', '– Italiano –', 'isiZulu']
  expect(labels.map(languageCalled)).toEqual(['de', 'fr', 'ja', 'ar', 'cy', 'it', 'zu'])
  for (const label of ['German', 'Deutsch lernen', 'IT', 'de', 'Indonesia', 'constructor', 'Visit', '', '…'])
    expect([label, languageCalled(label)]).toEqual([label, null])
})
