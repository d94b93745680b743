import { randomUUID } from 'node:crypto'
import { describe, expect, test } from '@jest/globals'
import { defaultScheme } from '#core/site'
import { schemeInput } from '#core/change/inputs'
import { readChange } from './change-request'

const id = randomUUID()
const refusal = (input: unknown): string => {
  try {
    readChange(input)
    return ''
  } catch (error) {
    return (error as Error).message
  }
}

describe('a change that a window sends', () => {
  const plan = (label: string) => ({
    kind: 'replacePlan',
    added: [{ parentId: null, after: id, pages: [{ id, label, details: { ownName: 'x' }, children: [] }] }],
    moved: [{ pageId: id, parentId: id, after: null, was: { parentId: null, order: 'a0' } }],
    changed: [{ pageId: id, field: 'inMenus', value: false, was: true }],
    removed: [{ pageId: id, was: '1x2y3z' }],
  })

  test.each([
    { kind: 'addPages', parentId: null, after: id, pages: [{ id, label: 'Visit', children: [{ id, label: 'x' }] }] },
    { kind: 'setPageText', pageId: id, field: 'label', value: '../../etc', was: 'Visit' },
    { kind: 'movePages', pageIds: [id], parentId: null, after: null },
    { kind: 'setScheme', scheme: defaultScheme, was: defaultScheme },
    { kind: 'setContent', pageId: id, text: '<p>', was: 'a'.repeat(64) },
    plan('Visit'),
  ])('is taken as it is: $kind', (change) => expect(readChange(change)).toEqual(change)) // prettier-ignore

  test.each([
    ['of no kind that is known', { kind: 'dropTables' }],
    ['of a kind that every object has', { kind: 'constructor' }],
    ['that is no object', null],
    ['with a field that is not known', { kind: 'movePages', pageIds: [id], parentId: null, after: null, order: 'a' }],
    ['that names content by itself', { kind: 'setContent', pageId: id, content: 'a', was: 'b' }],
    ['about no page', { kind: 'removePages', pageIds: [] }],
    ['about a page whose id is none', { kind: 'removePages', pageIds: ["1' OR true --"] }],
    ['with a label that is too long', plan('x'.repeat(501))],
    ['of a field that nobody may write', { kind: 'setPageText', pageId: id, field: 'seq', value: '1', was: '' }],
    ['with a hash that is none', { kind: 'setContent', pageId: id, text: '', was: '../x' }],
    ['with a scheme that puts files outside', { kind: 'setScheme', was: defaultScheme, scheme: { ...defaultScheme, homeName: '../x' } }],
  ])('is refused %s', (_, change) => expect(refusal(change)).not.toBe('')) // prettier-ignore

  test('may be nested as deep as anybody types, and no deeper than can be read', () => {
    const nested = (depth: number) => {
      let pages: unknown[] = []
      for (let at = 0; at < depth; at++) pages = [{ id: randomUUID(), label: `Level ${at}`, children: pages }]
      return { kind: 'addPages', parentId: null, after: null, pages }
    }
    expect(refusal(nested(100))).toBe('')
    const { pages } = nested(100)
    const run = { parentId: null, after: null, pages }
    expect(refusal({ kind: 'replacePlan', added: [run], moved: [], changed: [], removed: [] })).toBe('')
    expect(refusal(nested(20_000))).toContain('levels')
  })
})

describe('a naming scheme', () => {
  const problem = (part: object) => schemeInput.validate({ ...defaultScheme, ...part }).error?.message ?? ''

  test('is taken in every arrangement', () => {
    expect(problem({})).toBe('')
    expect(problem({ arrangement: { kind: 'one-folder', folder: 'pages' } })).toBe('')
    expect(problem({ arrangement: { kind: 'folder-a-page' }, longest: 3, extension: '.htm' })).toBe('')
  })
  test.each([
    { extension: '.exe' },
    { longest: 2 },
    { longest: 1e9 },
    { homeName: 'a/b' },
    { arrangement: { kind: 'one-folder', folder: '' } },
    { arrangement: { kind: 'one-folder', folder: '..' } },
    { folders: { ...defaultScheme.folders, image: '/etc' } },
    { shortForms: [{ word: 'information', short: '../' }] },
  ])('is refused with %p', (part) => expect(problem(part)).not.toBe(''))
})
