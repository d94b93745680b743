import { setTimeout as wait } from 'node:timers/promises'
import v8 from 'node:v8'
import vm from 'node:vm'
import { expect, test } from '@jest/globals'
import { deadline } from './deadline'

v8.setFlagsFromString('--expose-gc')
const collect = vm.runInNewContext('gc') as () => void

/** How many of twenty deadlines that nothing but their listeners know of come, though memory is collected meanwhile. */
async function come(make: () => AbortSignal): Promise<number> {
  let count = 0
  for (let number = 0; number < 20; number++)
    make().addEventListener('abort', () => void count++, { once: true })
  for (let round = 0; round < 2; round++) {
    await wait(20)
    collect()
  }
  await wait(300)
  return count
}

test('a deadline comes, alone and with others, however often memory is collected before', async () => {
  const other = new AbortController()
  expect(await come(() => deadline(200))).toBe(20)
  expect(await come(() => deadline(200, other.signal, undefined))).toBe(20)
})

test('what ends the work sooner does so at once, and is what is told', async () => {
  const other = new AbortController()
  const signal = deadline(60_000, other.signal)
  other.abort('stopped')
  expect(signal.reason).toBe('stopped')
  const late = deadline(1)
  await wait(20)
  expect(late.reason).toMatchObject({ name: 'TimeoutError' })
})
