import { expect, test } from '@jest/globals'
import { hunksOf, withHunk } from './hunks'

test('an earlier text is told from that of now by stretches, each of which can be brought back alone', () => {
  const was = '<p>one</p>\n<p>two</p>\n<p>three</p>\n<p>four</p>\n'
  const now = '<p>one</p>\n<p>2</p>\n<p>three</p>\n<p>four</p>\n<p>five</p>\n'
  const hunks = hunksOf(was, now)
  expect(hunks).toEqual([
    { kind: 'same', lines: ['<p>one</p>'] },
    { kind: 'other', was: ['<p>two</p>'], now: ['<p>2</p>'] },
    { kind: 'same', lines: ['<p>three</p>', '<p>four</p>'] },
    { kind: 'other', was: [], now: ['<p>five</p>'] },
  ])
  expect(withHunk(hunks, 1)).toBe('<p>one</p>\n<p>two</p>\n<p>three</p>\n<p>four</p>\n<p>five</p>\n')
  expect(withHunk(hunks, 3)).toBe('<p>one</p>\n<p>2</p>\n<p>three</p>\n<p>four</p>\n')
  expect(hunksOf(was, was)).toEqual([{ kind: 'same', lines: was.trimEnd().split('\n') }])
})
