import { expect, test } from '@jest/globals'
import { whyNoPage } from './why-no-page'

test('files without a page are told why they are no site, and texts where they become one', () => {
  expect(whyNoPage([{ path: 'site/logo.png' }])).toBe(
    'There is no page among these files: none is called .html or .htm.',
  )
  for (const path of ['Club rules.DOCX', 'texts/tides.md'])
    expect(whyNoPage([{ path: 'logo.png' }, { path }])).toContain('become pages when they are dropped')
})
