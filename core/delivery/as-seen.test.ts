import { expect, test } from '@jest/globals'
import {
  addsSlash,
  type DeliveredFile,
  folderOfHome,
  groupSeen,
  isForVisitors,
  judgeSeen,
  type SeenAnswer,
} from './index'

const page: DeliveredFile = { path: 'a.html', kind: 'page', hash: 'h' }
const fine: SeenAnswer = { status: 200, location: null, contentType: 'text/html; charset=utf-8', hash: 'h' }

test('what comes otherwise than it was sent is told apart by what a visitor meets', () => {
  const judge = (seen: Partial<SeenAnswer>, file = page) => judgeSeen(file, { ...fine, ...seen })
  expect(judge({})).toBeNull()
  expect(judge({ hash: null })).toBeNull()
  expect(judgeSeen(page, null)).toBe('silent')
  for (const [status, fault] of [[404, 'missing'], [410, 'missing'], [403, 'forbidden'], [401, 'forbidden'], [301, 'moved'], [307, 'moved'], [500, 'fails'], [429, 'fails']] as const)
    expect(judge({ status })).toBe(fault) // prettier-ignore
  expect(judge({ hash: 'old' })).toBe('other')
  expect(judge({ contentType: 'text/plain' })).toBe('as-text')
  expect(judge({ contentType: 'text/plain' }, { ...page, path: 'a.css', kind: 'file' })).toBe('as-text')
  expect(judge({ contentType: 'text/css' }, { ...page, path: 'a.css', kind: 'file' })).toBeNull()
  // Of a picture browsers judge by its bytes.
  expect(judge({ contentType: '' }, { ...page, path: 'a.png', kind: 'file' })).toBeNull()
})

test('is told once for each likely reason, and otherwise where it is all of them', () => {
  const judged = (faults: readonly (ReturnType<typeof judgeSeen>)[]) => faults.map((fault, at) => ({ path: `p${at}`, fault })) // prettier-ignore
  expect(groupSeen(judged([null, null]))).toEqual([])
  const [missing, other, ...more] = groupSeen(judged(['other', 'missing', null, 'missing']))
  expect(more).toEqual([])
  expect(missing).toMatchObject({ fault: 'missing', paths: ['p1', 'p3'] })
  expect(missing!.what).toContain('2 files are not found by visitors')
  expect(other!.paths).toEqual(['p0'])
  expect(groupSeen(judged(['missing', 'missing']))[0]!.what).toContain(
    'Nothing of this site is at its public address',
  )
})

test('a folder’s address without the slash leads to the one with it, or does not', () => {
  const folder = new URL('https://skerry.example/light/visit/')
  const led = (location: string | null, status = 301) => addsSlash(folder, { ...fine, status, location })
  for (const location of ['/light/visit/', 'visit/', 'http://www.skerry.example/light/visit/']) expect(led(location)).toBe(true)
  for (const location of ['/light/', '/', 'http://[', null]) expect(led(location)).toBe(false)
  expect([led(null, 404), led(null, 200), led('visit/', 503)]).toEqual([false, false, null])
  expect(addsSlash(folder, null)).toBeNull()
}) // prettier-ignore

test('a home file stands for its folder', () => {
  const of = (path: string) => folderOfHome(path, 'index.html')
  expect(['index.html', 'a/b/index.html', 'a/myindex.html', 'index.htm', 'a/b.html'].map(of)).toEqual([
    '', 'a/b/', null, null, null,
  ]) // prettier-ignore
})

test('what is the host’s own is not asked for as visitors would', () => {
  for (const at of ['index.html', 'a/b.c', '.well-known/security.txt']) expect(isForVisitors(at)).toBe(true)
  for (const at of ['.htaccess', 'a/.htpasswd', '.git/config']) expect(isForVisitors(at)).toBe(false)
})
