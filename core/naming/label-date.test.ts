import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { defaultScheme } from '#core/site'
import { change, pageCalled, siteFrom, TextStore } from '#core/testing'
import { checkDate, readLabelDate } from '#core/language'
import { explainName, namesOf } from './index'

describe('a date in a label', () => {
  test.each([
    ['Second count, June 2025', '2025-06', 'Second count'],
    ['2025-06-14 Second count', '2025-06-14', 'Second count'],
    ['14 June 2025', '2025-06-14', ''],
    ['June 14th, 2025: the gale', '2025-06-14', 'the gale'],
    ['Sept. 2024 newsletter', '2024-09', 'newsletter'],
    ['Annual report 2023', '2023', 'Annual report'],
    ['Treffen am 3. März 2025', '2025-03-03', 'Treffen am', 'de'],
    ['Count of 14.6.2025', '2025-06-14', 'Count of'],
    ['Réunion du 1 août 2025', '2025-08-01', 'Réunion du', 'fr'],
    ['29.2.2024', '2024-02-29', ''],
  ])('%s', (label, date, rest, language = 'en') =>
    expect(readLabelDate(label, language)).toEqual({ date, rest }),
  )

  test.each(['Keepers, 1871–1983', 'Room 12', 'May', '99999', '31.2.20255'])('%s has none', (label) => {
    expect(readLabelDate(label, 'en')?.date ?? null).toBe(null)
  })

  test('an author’s own is one of three forms and has to exist', () => {
    expect(['2025', '2025-06', '2025-06-30'].map(checkDate)).toEqual(['2025', '2025-06', '2025-06-30'])
    expect(['2025-6', '2025-06-31', '25', 'June', ''].map(checkDate)).toEqual([null, null, null, null, null])
  })

  test('any real day is read back from how it is written', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('1900-01-01'), max: new Date('2199-12-31'), noInvalidDate: true }),
        (day) => {
          const iso = day.toISOString().slice(0, 10)
          const [year, month, date] = iso.split('-')
          const long = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeZone: 'UTC' }).format(day)
          for (const written of [iso, long, `${Number(date)}.${Number(month)}.${year}`])
            expect(readLabelDate(`Log, ${written}`, 'en')).toEqual({ date: iso, rest: 'Log' })
        },
      ),
    )
  })
})

test('a dated section puts dates in front, in sorting order; numbers follow the plan', () => {
  const store = new TextStore()
  let site = siteFrom('Home\n  Log\n    Second count, June 2025\n    May 2025\n    Undated\n    Gale', store)
  const log = pageCalled(site, 'Log')
  site = change(site, store, { kind: 'setPageFlag', pageIds: [log.id], flag: 'dated', value: true })
  site = change(site, store, {
    kind: 'setPageText',
    pageId: pageCalled(site, 'Gale').id,
    field: 'date',
    value: '2025-07-12',
    was: null,
  })
  const paths = () => site.pages.slice(2).map((page) => namesOf(site).pages.get(page.id)!.path)
  expect(paths()).toEqual([
    'log/2025-06-second-count.html',
    'log/2025-05.html',
    'log/undated.html',
    'log/2025-07-12-gale.html',
  ])
  expect(
    explainName(site, pageCalled(site, 'Second count, June 2025').id).map((step) => step.rule),
  ).toContain('date')
  site = change(site, store, {
    kind: 'setScheme',
    scheme: { ...defaultScheme, numbered: true },
    was: site.scheme,
  })
  expect(paths()).toEqual([
    '01-log/01-2025-06-second-count.html',
    '01-log/02-2025-05.html',
    '01-log/03-undated.html',
    '01-log/04-2025-07-12-gale.html',
  ])
})
