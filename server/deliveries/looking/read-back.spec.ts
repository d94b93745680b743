import { randomBytes, randomUUID } from 'node:crypto'
import { mkdir, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { Readable } from 'node:stream'
import { expect, test } from '@jest/globals'
import { takeFile } from '#server/sites'
import { lookAt, siteOf, statesOf } from '../../testing/support'
import { deliveringSuite } from '../../testing/delivering-suite'

const suite = deliveringSuite('Home\n  Films')

const filmCount = 5
/** More than may be read back before it is kept. */
const filmBytes = 9_000_000

test('what nobody recorded is read back, and told as it comes; stopped in the middle, what was read is kept', async () => {
  const { siteId, accountId } = suite.site
  for (let nth = 0; nth < filmCount; nth++) {
    const film = randomBytes(filmBytes)
    const asked = { id: randomUUID(), name: `film-${nth}.bin`, replaces: null, keepsPlace: false }
    await takeFile(await siteOf(siteId, accountId), accountId, 0, asked, Readable.from([film]))
    // As somebody put it there by hand, the last of them another one of the same size.
    const at = suite.onDisk(`files/film-${nth}.bin`)
    await mkdir(path.dirname(at), { recursive: true })
    await writeFile(at, nth === filmCount - 1 ? randomBytes(filmBytes) : film)
  }
  const stop = new AbortController()
  let toRead = 0
  const stopped = lookAt(suite.site, stop.signal, (done, all) => {
    toRead = all
    if (done > 2.5 * filmBytes) stop.abort()
  })
  await expect(stopped).rejects.toMatchObject({ code: 'stopped' })
  expect(toRead).toBe(filmCount * filmBytes)
  expect(await statesOf(suite.site)).toMatchObject({ same: 2, unknown: filmCount - 2 })

  const told: number[] = []
  await lookAt(suite.site, undefined, (done, all) => {
    expect(all).toBe((filmCount - 2) * filmBytes)
    told.push(done)
  })
  expect(told[0]).toBe(0)
  expect(told.at(-1)).toBe((filmCount - 2) * filmBytes)
  expect(told.length).toBeGreaterThan(filmCount)
  expect(told).toEqual(told.toSorted((a, b) => a - b))
  expect(await statesOf(suite.site)).toMatchObject({ same: filmCount - 1, changed: 1 })
})
