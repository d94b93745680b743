import { setTimeout as pause } from 'node:timers/promises'
import { expect, test } from '@jest/globals'
import { zipFiles } from './zip'

test('files are asked for as the archive is read, and none once its reader has gone', async () => {
  let [asked, ends, isOver] = [0, 0, false]
  async function* entries() {
    try {
      for (;;) yield { path: `${++asked}.txt`, pieces: [Buffer.alloc(200_000, `${asked}`)] }
    } finally {
      isOver = true
    }
  }
  const reader = zipFiles(entries(), () => void ends++).getReader()
  await reader.read()
  // Nobody reads on: what fits on the way is made, and then no more is asked for.
  let whileRead = -1
  while (whileRead !== asked) {
    whileRead = asked
    await pause(300)
  }
  await reader.cancel()
  for (let tries = 0; tries < 50 && !isOver; tries++) await pause(20)
  expect([asked, ends, isOver]).toEqual([whileRead, 1, true])
})

test('an entry that cannot be had ends the archive, and is told to who reads it', async () => {
  let ends = 0
  async function* entries() {
    yield { path: 'a.txt', pieces: [Buffer.from('a')] }
    throw new Error('gone')
  }
  const read = new Response(zipFiles(entries(), () => void ends++)).arrayBuffer()
  await expect(read).rejects.toThrow()
  expect(ends).toBe(1)
})
