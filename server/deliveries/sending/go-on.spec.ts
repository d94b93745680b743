import { describe, expect, test } from '@jest/globals'
import { pool } from '#server/platform'
import { askFor, statesOf } from '../../testing/support'
import { deliveringSuite, planOf } from '../../testing/delivering-suite'
import { cancelDelivery, goOnNow } from './delivery-rows'
import { runDelivery } from './run'

// More than are on their way at once, so that one cut leaves some.
const suite = deliveringSuite(planOf(500))
const { stateOf } = suite

describe('a delivery that goes on by itself', () => {
  const cut = async () => {
    const { id } = (await askFor(suite.site, { goesOn: true }))!
    suite.host.faults.cutAfterFiles = 200
    expect(await runDelivery(id)).toBe(true)
    return id
  }

  test('waits after a cut, tells what is there, and ends as one when its time has come', async () => {
    const id = await cut()
    const waiting = await stateOf(id)
    expect(waiting).toMatchObject({ state: 'waiting', errorCode: 'connection-lost', cuts: 1, endedAt: null })
    expect(waiting.fileCount).toBeGreaterThan(50)
    expect(waiting.fileCount).toBeLessThan(waiting.fileTotal)
    expect(waiting.goOnAt!.getTime()).toBeGreaterThan(Date.now())
    // Nobody takes it up before, and no second one begins beside it.
    expect(await runDelivery(id)).toBe(false)
    expect(await askFor(suite.site)).toBeNull()
    await goOnNow(pool(), id)
    expect(await runDelivery(id)).toBe(true)
    const done = await stateOf(id)
    expect(done).toMatchObject({ state: 'done', errorCode: null, goOnAt: null })
    expect(done.fileCount).toBe(done.fileTotal)
    expect(await statesOf(suite.site)).toEqual({ same: 502 })
  })

  test('waits longer with each cut, and no longer than a day', async () => {
    const id = await cut()
    const pauses: number[] = []
    for (let nth = 0; nth < 3; nth++) {
      await goOnNow(pool(), id)
      suite.host.faults.cutAfterFiles = 1
      await runDelivery(id)
      const { goOnAt } = await stateOf(id)
      pauses.push(Math.round((goOnAt!.getTime() - Date.now()) / 1_000))
    }
    expect(pauses).toEqual([...pauses].sort((a, b) => a - b))
    expect(pauses[2]).toBeGreaterThan(2 * pauses[0]!)
    await pool().query("UPDATE deliveries SET asked_at = asked_at - interval '25 hours' WHERE id = $1", [id])
    await goOnNow(pool(), id)
    suite.host.faults.cutAfterFiles = 1
    await runDelivery(id)
    expect(await stateOf(id)).toMatchObject({ state: 'failed', errorCode: 'connection-lost' })
  })

  test('stops when its author wants no more of it; what is wrong otherwise ends it at once', async () => {
    const id = await cut()
    await cancelDelivery(pool(), id)
    expect(await stateOf(id)).toMatchObject({ state: 'cancelled' })
    expect(await runDelivery(id)).toBe(false)
    suite.host.faults.bytesLeft = 0
    const { id: next } = (await askFor(suite.site, { goesOn: true }))!
    await runDelivery(next)
    expect(await stateOf(next)).toMatchObject({ state: 'failed', errorCode: 'disk-full' })
  })
})
