import { randomUUID } from 'node:crypto'
import { expect, test } from '@jest/globals'
import { compareBrought, understand } from '#core/bringing'
import { hashOf } from '#server/contents'
import { compareShared } from './compare-shared'
import { sourcesOf } from './sources'

/** A site of many pages, some of which come out otherwise: a title that is empty is none. */
const page = (name: string, title = `${name} - Ferries`) =>
  `<!DOCTYPE html>\n<html><head><title>${title}</title></head><body><div id="top">Ferries</div>\n<div id="main"><h1>${name}</h1>\n<p>${name}, <a href="../index.html">and back</a>.</p></div>\n</body></html>\n`

test('pages compared in several threads come out as in one, in their order, each told once', async () => {
  const texts = new Map<string, string>()
  const put = (text: string) => {
    const hash = hashOf(text)
    texts.set(hash, text)
    return hash
  }
  const files = Array.from({ length: 400 }, (_, index) => {
    const text = index === 0 ? page('Home') : page(`Boat ${index}`, index % 7 === 0 ? '' : undefined)
    const path = index === 0 ? 'index.html' : `boats/b${index}.html`
    return { path, kind: 'page' as const, hash: put(text), sizeBytes: text.length, text }
  })
  const tools = { newId: randomUUID, put, sizeOf: (text: string) => text.length }
  const understood = understand(files, '', { scheme: null, lifts: true, generates: true }, tools)
  if ('refusal' in understood) throw new Error(understood.refusal)
  const sources = sourcesOf((hash) => texts.get(hash)!, 2031)
  let told = 0
  const shared = await compareShared(understood, sources, () => void told++)
  expect(shared).toEqual(compareBrought(understood, sources))
  expect(shared.filter(({ outcome }) => outcome === 'otherwise').length).toBeGreaterThan(40)
  expect(told).toBe(400)
})
