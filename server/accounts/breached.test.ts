import { createHash } from 'node:crypto'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { isBreached } from './breached'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(path.join(os.tmpdir(), 'rubricant-stolen-'))
})
afterAll(() => rm(folder, { recursive: true }))

const hashOf = (password: string) => createHash('sha1').update(password).digest('hex').toUpperCase()
const keep = async (name: string, text: string) => {
  const at = path.join(folder, name)
  await writeFile(at, text)
  return at
}

test.each([
  ['with counts of any length', (hash: string, index: number) => `${hash}:${3 ** (index % 20)}\n`],
  ['alone', (hash: string) => `${hash}\n`],
  ['with ends of lines as Windows has them', (hash: string, index: number) => `${hash}:${index}\r\n`],
  ['in small letters', (hash: string) => `${hash.toLowerCase()}\n`],
])('each password of a list is found, and none beside them: hashes %s', async (name, line) => {
  for (const count of [1, 2, 3, 64, 500]) {
    const stolen = Array.from({ length: count }, (_, index) => `stolen ${count} ${index} ü`)
    const sorted = stolen.map(hashOf).sort()
    const at = await keep(`${name} ${count}`, sorted.map(line).join(''))
    for (const password of stolen)
      expect([password, await isBreached(password, at)]).toEqual([password, true])
    for (let index = 0; index < 200; index++) expect(await isBreached(`own ${index}`, at)).toBe(false)
  }
})

test('the last line may have no end, and a list may be empty', async () => {
  const sorted = ['a', 'b', 'c'].map(hashOf).sort()
  const at = await keep('no end', sorted.join('\n'))
  for (const password of ['a', 'b', 'c']) expect(await isBreached(password, at)).toBe(true)
  expect(await isBreached('d', at)).toBe(false)
  expect(await isBreached('a', await keep('empty', ''))).toBe(false)
})
