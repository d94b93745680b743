import { describe, expect, test } from '@jest/globals'
import { Others } from './use-presence'

const told = (window: string, name: string, pageId: string | null) =>
  ({ siteId: 's', kind: 'presence', window, accountId: name, name, pageId, asks: false }) as const

describe('others in a site', () => {
  test('are where they were heard of last, by name, until they leave', () => {
    const others = new Others()
    expect(others.hear(told('1', 'Ben', 'a'), 0)).toBe(true)
    expect(others.hear(told('2', 'Ada', 'a'), 0)).toBe(true)
    expect(others.hear(told('1', 'Ben', 'b'), 1)).toBe(false)
    expect(others.list(2)).toEqual([
      { name: 'Ada', pageId: 'a' },
      { name: 'Ben', pageId: 'b' },
    ])
    others.hear(told('2', 'Ada', null), 3)
    expect(others.list(4)).toEqual([{ name: 'Ben', pageId: 'b' }])
    // A window that is back is new to whoever saw it go.
    expect(others.hear(told('2', 'Ada', 'c'), 5)).toBe(true)
  })

  test('are gone when nothing was heard of them for a while', () => {
    const others = new Others()
    others.hear(told('1', 'Ben', 'a'), 0)
    others.hear(told('2', 'Ada', 'a'), 30_000)
    expect(others.list(44_000)).toHaveLength(2)
    expect(others.list(46_000)).toEqual([{ name: 'Ada', pageId: 'a' }])
    expect(others.hear(told('1', 'Ben', 'a'), 47_000)).toBe(true)
  })
})
