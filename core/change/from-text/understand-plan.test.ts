import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { outlineOfSite, type PlanFormat, planFormats, treeOf, writeOutline, writePlan } from '#core/plan'
import { outlines, siteFrom, testId, TextStore } from '#core/testing'
import { understandPlan } from '../index'

const store = new TextStore()
const formats = Object.keys(planFormats) as PlanFormat[]

function understood(plan: string, text: string, format: PlanFormat = 'text') {
  const found = understandPlan(siteFrom(plan, store), { text, format, fixed: new Map() }, testId)
  if ('refusal' in found) throw new Error(found.refusal.reason)
  return found
}
const marked = (text: string, marks: readonly { line: number; word: string }[]) =>
  Object.fromEntries(marks.map(({ line, word }) => [text.split('\n')[line - 1]!.trim(), word]))

test('each line of an edited plan is marked with what becomes of its page, blank lines or not', () => {
  const text = '\nChapel\n\n  The bell\n  Come and see\n\n    Getting here\n    Parking\n    Contact us\n'
  const { marks } = understood('Chapel\n  Visit\n    Getting here\n  The bell\n  Contact', text)
  expect(marked(text, marks)).toEqual({
    'Come and see': 'renamed',
    Parking: 'new',
    'Contact us': 'renamed, moved',
    'The bell': 'moved',
  })
})

test('the marks stand at the lines of any format, and where no line is the home page', () => {
  const csv = 'level,label\r\n1,Chapel\r\n\r\n2,"The\r\nbell"\r\n2,Parking\r\n'
  expect(understood('Chapel\n  The bell', csv, 'csv').marks).toEqual([{ line: 6, word: 'new' }])
  const list = '# Plan\n- The bell\n- Parking\n- Visit\n'
  const found = understood('Chapel\n  The bell\n  Visit', list, 'markdown')
  expect(found.home.label).toBe('Chapel')
  expect(found.marks).toEqual([{ line: 3, word: 'new' }])
  const opml =
    '<opml version="2.0"><body>\n<outline text="Chapel">\n<outline type="page"\n text="Parking"/></outline></body></opml>'
  expect(understood('Chapel', opml, 'opml').marks).toEqual([{ line: 3, word: 'new' }])
})

test('the plan as it is written in any format changes nothing and marks no line', () => {
  fc.assert(
    fc.property(outlines, fc.constantFrom(...formats), (nodes, format) => {
      const site = siteFrom(writeOutline(nodes), store)
      const { text } = writePlan(format, outlineOfSite(site), site.name)
      const found = understandPlan(site, { text, format, fixed: new Map() }, testId)
      if ('refusal' in found) throw new Error(found.refusal.reason)
      expect(found.marks).toEqual([])
      expect(found.top.map(({ id }) => id)).toEqual(
        treeOf(site).childrenOf(null).filter(({ id }) => id !== site.homeId).map(({ id }) => id),
      ) // prettier-ignore
    }),
  )
})
