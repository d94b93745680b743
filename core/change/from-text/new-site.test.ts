import { expect, test } from '@jest/globals'
import { plainKit } from '#core/kit'
import { namesOf } from '#core/naming'
import { matchPlan, outlineOfSite, readPlan, writePlan } from '#core/plan'
import { defaultScheme, type Site } from '#core/site'
import { change, editWhole, pageCalled, testId, TextStore } from '#core/testing'
import { newSite, planEdit, plannedFrom, readNewPlan } from '../index'

const store = new TextStore()
const options = { name: 'Saltpan Chapel', language: 'en', scheme: defaultScheme }

function siteOf(text: string, scheme = defaultScheme) {
  const plan = readNewPlan({ text }, { ...options, scheme })
  if ('refusal' in plan) throw new Error(plan.refusal.reason)
  const hash = store.put('')
  const kit = plainKit({ scheme, template: hash, style: { hash, sizeBytes: 0 } })
  const made = newSite({ ...options, scheme, kit, plan, id: testId(), newId: testId, emptyContent: hash })
  return { site: made, notes: plan.notes }
}

test('a plan in any format makes a site with all that the format tells of its pages', () => {
  const csv =
    'level,label,trial,in menus,own name,title,description\r\n1,Chapel,,yes,,Welcome,\r\n2,The bell,,no,bell-of-1684,The bell of 1684,Cast here\r\n2,../x,,yes,../x,,\r\n'
  const { site, notes } = siteOf(csv)
  expect(pageCalled(site, 'The bell')).toMatchObject({
    ownName: 'bell-of-1684',
    title: 'The bell of 1684',
    description: 'Cast here',
    inMenus: false,
  })
  expect(pageCalled(site, 'Chapel')).toMatchObject({ id: site.homeId, title: 'Welcome' })
  // An own name that no host takes was put right and told.
  expect(notes.at(-1)).toContain('../x')
  const { text } = writePlan('csv', outlineOfSite(site), site.name)
  expect(siteOf(text).site.pages.map(({ label, title, ownName }) => [label, title, ownName])).toEqual(
    site.pages.map(({ label, title, ownName }) => [label, title, ownName]),
  )
})

test('a plan carries dates and languages to a new site, and into one that is there what they have become', () => {
  const csv = 'level,label,dated,date,language\n1,Chapel,,,\n2,News,yes,,\n3,Gale,,2031-03-03,\n3,Glocken,,2030,de\n'
  const { site } = siteOf(csv)
  const paths = (of: Site) => ['Gale', 'Glocken'].map((label) => namesOf(of).pages.get(pageCalled(of, label).id)!.path)
  expect(paths(site)).toEqual(['news/2031-03-03-gale.html', 'news/2030-glocken.html'])
  expect(pageCalled(site, 'Glocken').language).toBe('de')
  const { text } = writePlan('csv', outlineOfSite(site), site.name)
  const told = ({ pages }: Site) => pages.map(({ label, dated, date, language }) => [label, dated, date, language])
  expect(told(siteOf(text).site)).toEqual(told(site))
  const edited = readPlan('csv', text.replace('2031-03-03', '2031-03-04').replace(',yes,\r', ',no,\r').replace(',de,', ',fr,'))
  if ('refusal' in edited) throw new Error(edited.refusal.reason)
  const [home] = edited.nodes
  const wanted = { home: home!, top: plannedFrom(matchPlan(site, home!.children, new Map()).lines, testId) }
  const after = change(site, store, { kind: 'replacePlan', ...planEdit(site, wanted), content: store.put('') })
  expect(told(after)).toEqual([['Chapel', false, null, null], ['News', false, null, null], ['Gale', false, '2031-03-04', null], ['Glocken', false, '2030', 'fr']])
  expect(paths(after)).toEqual(['news/gale.html', 'news/glocken.html'])
  for (const [field, value] of [['date', 'soon'], ['language', '<x>']] as const)
    expect(editWhole(site, { kind: 'replacePlan', added: [], moved: [], removed: [], changed: [{ pageId: pageCalled(site, 'Gale').id, field, value, was: pageCalled(site, 'Gale')[field] }], content: store.put('') })).toHaveProperty('refusal')
}) // prettier-ignore

test('an empty plan is a home page; its pages are named by the scheme it is made with', () => {
  expect(siteOf('  \n').site.pages.map(({ label }) => label)).toEqual(['Saltpan Chapel'])
  const { site } = siteOf('Home\n  The bell', { ...defaultScheme, leaveOut: ['the'], extension: '.htm' })
  expect(namesOf(site).pages.get(pageCalled(site, 'The bell').id)!.path).toBe('bell.htm')
})

test('a plan that cannot be kept is refused with the line and the reason', () => {
  const refusal = (text: string) => readNewPlan({ text }, options)
  expect(refusal(`Home\n\n  ${'x'.repeat(10_000)}`)).toMatchObject({
    refusal: { line: 3, reason: expect.stringContaining('10000 characters') },
  })
  expect(refusal('Home\n' + '  Page\n'.repeat(50_000))).toMatchObject({
    refusal: { line: 50_001, reason: expect.stringContaining('50,001 pages') },
  })
  expect(refusal('<opml><body>')).toMatchObject({ refusal: { line: 1 } })
})
