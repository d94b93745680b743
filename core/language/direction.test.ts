import { expect, test } from '@jest/globals'
import { directionOf } from './index'

test.each([
  ['ar', 'rtl'], ['he-IL', 'rtl'], ['az-Arab', 'rtl'], ['pa-Arab-PK', 'rtl'], ['ku', 'ltr'], ['ur-Latn', 'ltr'], ['en', 'ltr'], ['de-DE', 'ltr'], ['', 'ltr'], ['YI', 'rtl'],
] as const)('%s is written %s', (language, direction) => expect(directionOf(language)).toBe(direction)) // prettier-ignore
