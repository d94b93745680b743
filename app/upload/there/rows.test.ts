import { expect, test } from '@jest/globals'
import { rowsOf } from './rows'

const files = (count: number) =>
  Array.from({ length: count }, (_, nth) => ({ path: nth % 2 ? `a/b/${nth}.html` : `${nth}.html` }))

test('a few files are listed as they are; many under their folders, each once', () => {
  expect(rowsOf(files(12)).every(({ kind }) => kind === 'file')).toBe(true)
  const rows = rowsOf(files(20))
  expect(rows.filter(({ kind }) => kind === 'folder')).toMatchObject([{ folder: '' }, { folder: 'a/b/' }])
  const listed = rows.flatMap((row) => (row.kind === 'file' ? [row.file.path] : []))
  expect([...listed].sort()).toEqual(
    files(20)
      .map(({ path }) => path)
      .sort(),
  )
  expect(rows[0]).toMatchObject({ kind: 'folder', files: { length: 10 } })
})
