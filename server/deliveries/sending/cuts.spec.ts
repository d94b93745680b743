import { createHash, randomInt } from 'node:crypto'
import { readdir, readFile, rm } from 'node:fs/promises'
import path from 'node:path'
import { afterAll, afterEach, beforeAll, expect, test } from '@jest/globals'
import pg from 'pg'
import { pool } from '#server/platform'
import { changeSite, loadSite } from '#server/sites'
import { breakableWay } from '../../../practice-host/hostile'
import { putBlob } from '../../contents/blobs'
import { kill, startDeliverer } from '../../testing/processes'
import {
  accountWithSite,
  askFor,
  freshDatabase,
  lookAt,
  practiceForm,
  practiceHost,
  statesOf,
  until,
} from '../../testing/support'
import { saveDestination, testDestination } from '../places/destinations'
import { findDelivery, goOnNow } from './delivery-rows'
import { listItems } from './item-rows'
import { runDelivery } from './run'

/**
 * Deliveries of sixty files that are cut, at every kind of place, and end all the same. `npm run check:faults` cuts a
 * thousand times; here some of each kind.
 */
const cutsEach = Math.ceil(Number(process.env.CUTS ?? 45) / 3)
const pageCount = 57

let database: Awaited<ReturnType<typeof freshDatabase>>
let host: Awaited<ReturnType<typeof practiceHost>>
const ways: { close(): Promise<void> }[] = []
beforeAll(async () => {
  database = await freshDatabase()
  host = await practiceHost()
})
afterEach(() => host.faults.reset())
afterAll(async () => {
  for (const way of ways) await way.close()
  await host.end()
  await database.close()
})

const hashOf = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex')

/** Ends every connection of this suite's database but the one that does it, as a restart of it does. */
async function endConnections(): Promise<void> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL })
  await client.connect()
  await client.query(
    'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
  )
  await client.end()
}

test.each([
  ['sftp', () => host.sftpPort],
  ['ftps', () => host.ftpPort],
  ['ftp', () => host.ftpPort],
] as const)(
  'a delivery over %s that is cut anywhere never leaves half a file or a page without what it needs, and ends complete',
  async (protocol, portOf) => {
    const pages = Array.from({ length: pageCount }, (_, index) => `  Page ${index + 1}`)
    const made = await accountWithSite(`Home\n${pages.join('\n')}`)
    const way = await breakableWay(portOf())
    ways.push(way)
    const form = practiceForm(host, made.siteId, { protocol, port: way.port })
    const { hostKey } = await testDestination(form, null, made, null)
    const site = { ...made, destinationId: await saveDestination(form, null, made, hostKey) }
    const folder = path.join(host.publicPath, site.siteId)
    const stored = async () => (await loadSite(pool(), site.siteId, site.accountId))!
    const stateOf = async (id: string) => (await findDelivery(pool(), id, site.siteId))!

    /** Changes every page and the style sheet. */
    const changeAll = async (nth: number) => {
      const { templates, files } = (await stored()).site
      const template = templates[0]!
      const sheet = files.find(({ kind }) => kind === 'style')!
      const source = `<!DOCTYPE html>\n<html lang="en">\n<head><meta charset="utf-8"><title>{title}</title><link rel="stylesheet" href="/styles/${sheet.label}"></head>\n<body><h1>{page}</h1><site-menu></site-menu><p>${nth}</p></body>\n</html>\n`
      await changeSite(site.siteId, site.accountId, 0, async (client) => ({
        kind: 'setTemplate', templateId: template.id, source: await putBlob(client, source), was: template.source,
      }))
      await changeSite(site.siteId, site.accountId, 0, async (client) => {
        const css = `body { margin: ${nth}px }\n`
        return { kind: 'setFile', fileId: sheet.id, hash: await putBlob(client, css), sizeBytes: css.length, was: sheet.hash }
      })
    } // prettier-ignore
    /** What is to be there by a delivery, by path. */
    const wantedBy = async (id: string) =>
      new Map((await listItems(pool(), id)).map((item) => [item.path, item.hash!]))
    const there = async () => {
      const names = (await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => [])).filter(
        (one) => one.isFile(),
      )
      const found = new Map<string, string>()
      for (const one of names) {
        const at = path.join(one.parentPath, one.name)
        const bytes = await readFile(at).catch(() => null)
        if (bytes) found.set(path.relative(folder, at), hashOf(bytes))
      }
      return found
    }
    /** Each file is absent, old or new as a whole, and no page is there without its style sheet. */
    const holds = async (
      old: ReadonlyMap<string, string>,
      wanted: ReadonlyMap<string, string>,
      style: string,
    ) => {
      const found = await there()
      for (const [at, hash] of found) {
        if (/\.rubricant-(part|old)$/.test(at)) continue
        expect([at, [old.get(at), wanted.get(at)].includes(hash)]).toEqual([at, true])
      }
      const newPages = [...found].filter(
        ([at, hash]) => at.endsWith('.html') && hash === wanted.get(at) && hash !== old.get(at),
      )
      // What a new page needs is new, too.
      if (newPages.length > 0) expect(found.get(style)).toBe(wanted.get(style))
      if (newPages.some(([at]) => at === 'index.html')) expect(newPages).toHaveLength(pageCount + 1)
    }

    // How many requests a whole one takes tells where it can be cut.
    await changeAll(0)
    host.faults.reset()
    const first = (await askFor(site, { goesOn: true }))!
    let old: ReadonlyMap<string, string> = await wantedBy(first.id)
    const style = [...old.keys()].find((at) => at.endsWith('.css'))!
    await runDelivery(first.id)
    expect((await stateOf(first.id)).state).toBe('done')
    const requests = host.faults.requests
    const bytes = 60 * 1_000

    const began = performance.now()
    for (let nth = 1; nth <= cutsEach; nth++) {
      // Sometimes everything has gone there; sometimes renaming onto a file is refused.
      if (nth % 7 === 0) await rm(folder, { recursive: true, force: true })
      if (nth % 7 === 0) old = new Map()
      host.faults.reset()
      host.faults.renameReplaces = nth % 5 !== 0
      await changeAll(nth)
      const { id } = (await askFor(site, { goesOn: true }))!
      const wanted = await wantedBy(id)
      const kinds = ['request', 'request', 'bytes', 'database', 'bytes', 'request', 'process'] as const
      const kind = kinds[nth % kinds.length]!
      const at = 1 + randomInt(requests)
      let said = `${kind} at ${at}`
      if (kind === 'bytes') {
        const after = 1 + randomInt(bytes)
        said = `after ${after} bytes`
        way.cutAfter(after)
      }
      if (kind === 'request') host.faults.onRequest(at, () => host.faults.cut())
      let ended: Promise<void> = Promise.resolve()
      if (kind === 'database')
        host.faults.onRequest(at, () => void (ended = endConnections().catch(() => {})))
      if (kind === 'process') {
        let gone: Promise<void> | null = null
        // It takes it up as it starts.
        const child = await startDeliverer()
        host.faults.onRequest(Math.min(at, 60), () => void (gone = kill(child)))
        await until(async () => gone !== null || (await stateOf(id)).state === 'done')
        await (gone ?? kill(child))
      } else await runDelivery(id).catch(() => {})
      // It ends what is under way then, and nothing that comes after.
      await ended
      await holds(old, wanted, style)
      way.cutAfter(null)
      // Renaming in two steps leaves a moment in which a file stands aside; the next run mends that.
      for (let again = 0; (await stateOf(id)).state !== 'done'; again++) {
        if (again > 20)
          throw new Error(`It does not end after a cut: ${said}: ${JSON.stringify(await stateOf(id))}`)
        // As though the time had passed in which others wait for who is gone.
        await pool().query(
          "UPDATE deliveries SET lease_until = now() - interval '1 s' WHERE id = $1 AND state = 'running'",
          [id],
        )
        await pool().query("UPDATE delivery_workers SET until = now() - interval '1 s'")
        await pool().query("UPDATE destination_holds SET held_until = now() - interval '1 s'")
        await goOnNow(pool(), id)
        await runDelivery(id)
      }
      const found = await there()
      expect([said, [...found].sort()]).toEqual([said, [...wanted].sort()])
      expect(await stateOf(id)).toMatchObject({ heldCount: 0 })
      old = wanted
      // A thousand take long, and who started them sees that they go on.
      if (process.env.CUTS && nth % 10 === 0)
        process.stderr.write(
          `${protocol}: ${nth} of ${cutsEach} cuts, ${Math.round((performance.now() - began) / nth)} ms each\n`,
        )
    }
    await lookAt(site)
    expect(await statesOf(site)).toEqual({ same: old.size })
  },
  Math.max(120_000, cutsEach * 10_000),
)
