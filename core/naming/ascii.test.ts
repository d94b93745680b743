import { expect, test } from '@jest/globals'
import anyAscii from 'any-ascii'
import { asciiAtHand, needsSpelling, toAscii } from './ascii'

test('what is at hand is what the whole table has', () => {
  let count = 0
  for (let code = 0; code < 0x2200; code++) {
    const sign = String.fromCodePoint(code)
    const spelled = asciiAtHand(sign)
    if (spelled === null) continue
    count += 1
    expect([sign, spelled]).toEqual([sign, anyAscii(sign)])
  }
  expect(count).toBeGreaterThan(500)
})

test('labels of most European languages need no table; other scripts do', () => {
  for (const label of ['Terns', 'Où dîner à l’île ?', 'Fähre & Straße', 'Żółw, łoś i ćma', '“Ærø” – 2026'])
    expect([label, needsSpelling(label)]).toEqual([label, false])
  for (const label of ['Чайки', '東京', 'Γλάροι', 'A 🐦'])
    expect([label, needsSpelling(label)]).toEqual([label, true])
  expect(toAscii('Чайки')).toBe('Chayki')
})
