/** Deliveries: to the practice host near and far, over SFTP and FTP with TLS, alone and shared by several processes. */
import { randomUUID } from 'node:crypto'
import { mkdtemp } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { Readable } from 'node:stream'
import { Client } from 'basic-ftp'
import { planSite, readOutline } from '#core/plan'
import { signUp } from '#server/accounts'
import { putBlob } from '#server/contents'
import { askDelivery, findDelivery, runDelivery, saveDestination, testDestination } from '#server/deliveries'
import { migrate, pool, stopListening } from '#server/platform'
import { changeSite, createSite, loadSite } from '#server/sites'
import { startPracticeHost } from '../practice-host/host'
import { kill, startDeliverer } from '../server/testing/processes'
import { slowWayTo } from './latency'
import { figureOf, measure, ratio } from './measure'

const pageCount = 1_000
await migrate()
const host = await startPracticeHost({
  folder: await mkdtemp(path.join(os.tmpdir(), 'rubricant-bench-host-')),
  sftpPort: 0,
  webPort: 0,
})
const { id: accountId } = (await signUp(`${randomUUID()}@saltpan.example`, randomUUID()))!
const plan = `Home\n${Array.from({ length: pageCount - 1 }, (_, index) => `  Page ${index + 1}`).join('\n')}`
const siteId = await createSite(accountId, {
  name: 'Saltpan Chapel',
  language: 'en',
  plan: planSite(readOutline(plan), 'Saltpan Chapel'),
})
const load = async () => (await loadSite(pool(), siteId, accountId))!
/** A template without menus and a text that fills each page up to 4 KB. */
const source = `<!DOCTYPE html>\n<html lang="en"><meta charset="utf-8"><title>{title}</title><!-- ${'x'.repeat(3_960)} --></html>`
const [template] = (await load()).site.templates
await changeSite(siteId, accountId, 0, async (client) => ({
  kind: 'setTemplate',
  templateId: template!.id,
  source: await putBlob(client, source),
  was: template!.source,
}))

const ask = async (destinationId: string) =>
  (await askDelivery(await load(), { destinationId, accountId }))!.id
const done = async (id: string) => {
  const delivery = (await findDelivery(pool(), id, siteId))!
  if (delivery.state !== 'done') throw new Error(delivery.errorMessage ?? delivery.state)
}
const send = async (destinationId: string) => {
  const id = await ask(destinationId)
  await runDelivery(id)
  await done(id)
}
const keys = new Map<string, string>()
let folders = 0
const destination = async (more: { protocol?: string; port?: number } = {}) => {
  const folder = `public/run-${++folders}`
  const form = {
    name: folder,
    protocol: 'sftp',
    host: '127.0.0.1',
    port: host.sftpPort,
    account: host.account,
    password: host.password,
    folder,
    publicAddress: 'http://127.0.0.1/',
    ...more,
  }
  const owner = { siteId, accountId }
  // Learned once: trying a destination is limited to some times a minute.
  const hostKey = keys.get(form.protocol) ?? (await testDestination(form, null, owner, null)).hostKey
  keys.set(form.protocol, hostKey)
  return saveDestination(form, null, owner, hostKey)
}

let last = ''
const sending = await measure(
  'sending 1,001 files of 4 KB to the practice host',
  async () => (last = await destination()),
  send,
)
const again = await measure('sending again with nothing changed', () => last, send)
ratio('  sending again : sending', again, sending)
const slow = await slowWayTo(host.sftpPort, 10)
const far = await measure(
  'sending the same over a way of 20 ms there and back',
  () => destination({ port: slow.port }),
  send,
  3,
)
ratio('  over 20 ms : sending', far, sending)

// FTP has a connection for each file: the host waits before each answer, as the way would.
host.faults.delayMs = 20
const ftp = await measure(
  'sending it over FTP with TLS, each answer 20 ms late',
  () => destination({ protocol: 'ftps', port: host.ftpPort }),
  send,
  2,
)
const sequential = async (count: number) => {
  const client = new Client()
  await client.access({
    host: '127.0.0.1', port: host.ftpPort, user: host.account, password: host.password,
    secure: true, secureOptions: { rejectUnauthorized: false },
  }) // prettier-ignore
  await client.ensureDir(`public/by-one-${++folders}`)
  const bytes = Buffer.alloc(4_000, 'x')
  const start = performance.now()
  for (let nth = 0; nth < count; nth++) await client.uploadFrom(Readable.from([bytes]), `${nth}.html`)
  const took = performance.now() - start
  client.close()
  return took
}
// A tenth of it says enough.
const oneByOne = figureOf('  a client that sends one file after the other, 1,001 files', [
  10 * (await sequential(100)),
])
ratio('  over FTP with TLS : one after the other', ftp, oneByOne)
host.faults.delayMs = 0

// ── Shared: several processes over one database, the host 20 ms away for each ──
for (let processes = 1; processes <= 3; processes++) {
  const children = await Promise.all(Array.from({ length: processes }, () => startDeliverer()))
  const times: number[] = []
  for (let run = 0; run < 3; run++) {
    const id = await ask(await destination({ port: slow.port }))
    for (let ended = null; ended === null;) {
      await new Promise((resolve) => setTimeout(resolve, 20))
      ended = (await findDelivery(pool(), id, siteId))!.endedAt
    }
    await done(id)
    const { startedAt, endedAt } = (await findDelivery(pool(), id, siteId))!
    times.push(endedAt!.getTime() - startedAt!.getTime())
  }
  await Promise.all(children.map(kill))
  figureOf(
    `sending it over 20 ms, shared by ${processes} ${processes === 1 ? 'process' : 'processes'}`,
    times,
  )
}
slow.close()

await host.close()
await stopListening()
await pool().end()
