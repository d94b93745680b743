import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { templateChoices } from '#core/template'
import { siteFrom, TextStore } from '#core/testing'
import { templatesBelow } from './templates-below'

const site = siteFrom(
  'Home\n  Birds\n    Terns\n      Arctic\n      Little\n    Gulls\n  Visit\n    Tides',
  new TextStore(),
)
const templates = ['one', 'two', 'whole'] as const // prettier-ignore

test('each page is made with the template it has, in whatever order pages are told', () => {
  const orders = fc.shuffledSubarray([...site.pages], { minLength: site.pages.length })
  const given = fc.array(fc.constantFrom(...templates), {
    minLength: site.pages.length,
    maxLength: site.pages.length,
  })
  fc.assert(
    fc.property(orders, given, (pages, chosen) => {
      const templateOf = (id: string) => chosen[site.pages.findIndex((page) => page.id === id)]!
      const found = templatesBelow(pages, templateOf, () => 'one', (id) => id !== 'whole') // prettier-ignore
      expect(found.map(({ id }) => id)).toEqual(pages.map(({ id }) => id))
      const choices = templateChoices({ ...site, templateId: 'one', pages: found })
      for (const { id } of pages) expect(choices.get(id)).toBe(templateOf(id))
      // Said as high as it holds, and nowhere else.
      for (const { belowTemplateId } of found) expect(belowTemplateId).not.toBe('whole')
    }),
  )
})
