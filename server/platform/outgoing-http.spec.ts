import { createHash, randomBytes } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { outsideServer } from '../testing/outside'
import { askOutside } from './outgoing-http'

const bytes = randomBytes(50_000)
let outside: Awaited<ReturnType<typeof outsideServer>>

beforeAll(async () => {
  process.env.RUBRICANT_PRIVATE_HOSTS = 'true'
  outside = await outsideServer((request, response) => {
    const inPieces = async (most: number) => {
      response.writeHead(200).flushHeaders()
      for (let at = 0; at < most; at += 5_000) {
        response.write(bytes.subarray(at, at + 5_000))
        await pause(100)
      }
    }
    switch (request.url) {
      case '/slow': return void inPieces(bytes.length).then(() => response.end())
      case '/stops': return void inPieces(20_000)
      default: return undefined
    }
  }) // prettier-ignore
})
afterAll(() => outside.close())

const ask = (path: string, signal = new AbortController().signal) =>
  askOutside(new URL(path, outside.base), 'GET', {}, signal, 100_000, { answerMs: 400, idleMs: 400 })

test('a body may take longer than a server has to answer, as long as it goes on coming', async () => {
  const { status, hash } = await ask('/slow')
  expect([status, hash]).toEqual([200, createHash('sha256').update(bytes).digest('hex')])
})

test('a server that says nothing, or nothing more, is not waited for', async () => {
  await expect(ask('/silent')).rejects.toThrow('aborted')
  await expect(ask('/stops')).rejects.toThrow('aborted')
})

test('whoever cancels is not kept, in the middle of a body', async () => {
  const cancelled = new AbortController()
  const asked = ask('/slow', cancelled.signal)
  setTimeout(() => cancelled.abort(new Error('Enough')), 250)
  await expect(asked).rejects.toThrow('aborted')
})
