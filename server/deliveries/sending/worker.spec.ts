import { expect, test } from '@jest/globals'
import { silentHost } from '../../../practice-host/hostile'
import { pool } from '../../platform/pool'
import { seal } from '../../platform/secrets'
import { accountWithSite, askFor, practiceForm, statesOf, until } from '../../testing/support'
import { deliveringSuite, planOf } from '../../testing/delivering-suite'
import { insertDestination } from '../places/destination-rows'
import { sealedFor } from '../places/sign-in'
import { putWebHost } from '../places/web-host-rows'
import { cancelDelivery, findDelivery } from './delivery-rows'
import { runDelivery, takeDelivery } from './run'
import { deliveryWorker } from './worker'

const suite = deliveringSuite(planOf(30))

test('the worker of a process sends to one host while another hangs, counts what it takes up, and gives up what never ends', async () => {
  const silent = await silentHost()
  const worker = deliveryWorker()
  try {
    const hangs = await accountWithSite('Home')
    const stuck = practiceForm(suite.host, 'stuck', { port: silent.port })
    const id = crypto.randomUUID()
    const values = { ...stuck, id, signIn: 'password' as const, hostKey: `SHA256:${'A'.repeat(43)}` }
    await putWebHost(pool(), hangs.accountId, { ...values, secretSealed: seal('x', sealedFor(values)) })
    await insertDestination(pool(), hangs.siteId, { ...values, webHostId: id })
    const waits = (await askFor({ ...hangs, destinationId: id }))!
    worker.look()
    await until(async () => (await findDelivery(pool(), waits.id, hangs.siteId))!.state === 'running')
    // Another author's: it does not wait for the one that hangs.
    const mine = (await askFor(suite.site))!
    worker.look()
    await until(async () => (await suite.stateOf(mine.id)).state === 'done')
    expect(await findDelivery(pool(), waits.id, hangs.siteId)).toMatchObject({
      state: 'running',
      attempts: 1,
    })
    await cancelDelivery(pool(), waits.id)
    await until(async () => (await findDelivery(pool(), waits.id, hangs.siteId))!.state === 'cancelled')
  } finally {
    worker.stop()
    await silent.close()
  }
}, 30_000)

test('a delivery that ended its worker again and again is given up', async () => {
  const { id } = (await askFor(suite.site))!
  await pool().query(
    `UPDATE deliveries SET state = 'running', attempts = 5, worker = gen_random_uuid(), lease_until = now() - interval '1 second' WHERE id = $1`,
    [id],
  )
  await runDelivery(id)
  expect(await suite.stateOf(id)).toMatchObject({
    state: 'failed',
    errorCode: 'given-up',
  })
})

test('of two workers that take at once one has it; one whose lease another has taken stops in mid-send', async () => {
  suite.host.faults.delayMs = 60
  const { id } = (await askFor(suite.site))!
  const taken = (await Promise.all(Array.from({ length: 6 }, () => takeDelivery(id)))).filter(Boolean)
  expect(taken).toHaveLength(1)
  await until(async () => (await suite.stateOf(id)).fileCount > 0)
  // What another process does when the lease of this one has run out.
  const thief = crypto.randomUUID()
  await pool().query(
    `UPDATE deliveries SET worker = $2, lease_until = now() + interval '1 hour' WHERE id = $1`,
    [id, thief],
  )
  await taken[0]!.ended
  suite.host.faults.delayMs = 0
  const { state, fileCount } = await suite.stateOf(id)
  expect(state).toBe('running')
  expect(fileCount).toBeLessThan(32)
  // The thief's own run goes on from what had been recorded, and ends with every file there.
  await pool().query(`UPDATE deliveries SET lease_until = now() - interval '1 second' WHERE id = $1`, [id])
  await runDelivery(id)
  expect(await suite.stateOf(id)).toMatchObject({ state: 'done' })
  expect(await statesOf(suite.site)).toEqual({ same: 32 })
})
