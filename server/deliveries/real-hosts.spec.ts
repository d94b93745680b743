import { chmod, mkdir, readFile, readdir, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { buffer } from 'node:stream/consumers'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import {
  accountWithSite,
  askFor,
  freshDatabase,
  siteOf,
  statesOf,
  lookAt,
  writePage,
} from '../testing/support'
import { keepsTheContract } from '../testing/transport-contract'
import { pool } from '#server/platform'
import { loadSite } from '#server/sites'
import { seeAsVisitors } from './looking/as-seen'
import { findDestination } from './places/destination-rows'
import { saveDestination, testDestination } from './places/destinations'
import { findFolder, findProtocol } from './places/find-way'
import { traitsOf } from './places/web-host-rows'
import { findDelivery } from './sending/delivery-rows'
import { runDelivery } from './sending/run'
import { transportOf } from './transfer/transports'

/** The servers that `bin/hosts.mjs` has started over one folder, as the environment tells. */
interface RealHosts {
  readonly account: string
  readonly password: string
  /** The folder on disk that the account sees as its own. */
  readonly home: string
  readonly webPort: number
  readonly places: readonly { readonly name: string; readonly protocol: string; readonly port: number }[]
}

const hosts = JSON.parse(process.env.REAL_HOSTS ?? 'null') as RealHosts
if (!hosts) throw new Error('These tests need real hosts; npm run check:hosts starts them.')

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())

let folders = 0
describe.each(hosts.places)('$name', ({ name, protocol, port }) => {
  const place = { protocol, host: '127.0.0.1', port, account: hosts.account, password: hosts.password }
  const keyOf = () => transportOf(place).learnKey(place.host, port, {})

  describe('a transport', () => {
    keepsTheContract(async () => {
      const target = { ...place, folder: `public/contract-${name}-${++folders}`, hostKey: await keyOf(), mark: '0123abcd' }
      return transportOf(place).open(target)
    })
  })

  test('is found by what it speaks', async () => {
    // Plain FTP stands at the same port as FTP with TLS, which is safer.
    const safest = protocol === 'ftp' ? 'ftps' : protocol
    const { accountId } = await accountWithSite('Home')
    expect(await findProtocol(accountId, '127.0.0.1', port, AbortSignal.timeout(60_000), () => {})).toMatchObject({ protocol: safest })
  }, 90_000)

  test('shows files with names of an old system, and what is locked: the one is removed or told, the other passed over', async () => {
    const folder = path.join(hosts.home, 'public', `old-${name}`)
    await mkdir(path.join(folder, 'locked'), { recursive: true })
    await chmod(folder, 0o777)
    await writeFile(path.join(folder, 'locked', 'a.html'), 'x')
    await chmod(path.join(folder, 'locked'), 0o700)
    await writeFile(Buffer.concat([Buffer.from(`${folder}/B`), Buffer.from([0xe4]), Buffer.from('r.html')]), 'old')
    const transport = await transportOf(place).open({ ...place, folder: `public/old-${name}`, hostKey: await keyOf(), mark: '0123abcd' })
    const closed: string[] = []
    const listed = (await transport.list((at) => closed.push(at))).map((file) => file.path)
    if (protocol === 'sftp') {
      expect([listed, closed]).toEqual([['B\ufffdr.html'], ['locked/']])
      await expect(transport.remove(listed[0]!)).rejects.toMatchObject({ code: 'odd-name' })
    } else {
      expect(listed).toEqual(['B%E4r.html'])
      expect(String(await buffer(transport.read('B%E4r.html', 10)))).toBe('old')
      await transport.remove('B%E4r.html')
      expect(await readdir(folder)).toEqual(['locked'])
    }
    await transport.close()
  })

  test('takes a whole site, then what changed, and visitors get it', async () => {
    const made = await accountWithSite(`Home\n  Section\n    Below\n${Array.from({ length: 118 }, (_, nth) => `  Page ${nth + 1}`).join('\n')}`)
    const folder = `site-${name}`
    const form = { ...place, name, folder: `public/${folder}`, publicAddress: `http://127.0.0.1:${hosts.webPort}/${folder}/` }
    const { hostKey } = await testDestination(form, null, made, null)
    const found = await findFolder({ ...form, folder: '' }, null, made, hostKey, AbortSignal.timeout(60_000), () => {})
    expect(found.folder).toBe(`public/${folder}`)
    const site = { ...made, destinationId: await saveDestination(form, null, made, hostKey) }
    const deliver = async (removeLeftovers = false) => {
      const { id } = (await askFor(site, { removeLeftovers }))!
      await runDelivery(id)
      return (await findDelivery(pool(), id, site.siteId))!
    }
    expect(await deliver()).toMatchObject({ state: 'done', fileCount: 122 })
    await lookAt(site)
    expect(await statesOf(site)).toEqual({ same: 122 })
    // As these hosts are: on a disk that tells case apart; FTP with a strict mask keeps files to its account.
    const odd = await traitsOf(pool(), site.destinationId)
    expect(odd).toMatchObject({ tellsCase: true, setsTimes: true, ...(protocol !== 'sftp' && { opens: false }) })
    expect(odd).not.toHaveProperty('clockSeconds')
    expect(odd).not.toHaveProperty('longestName')
    expect(odd).not.toHaveProperty('pipelines')
    const onDisk = path.join(hosts.home, 'public', folder)
    expect((await readdir(onDisk, { recursive: true })).filter((name) => name.includes('rubricant'))).toEqual([])
    await writePage(site.siteId, site.accountId, 'Page 7', '<p>new here</p>')
    expect(await deliver(true)).toMatchObject({ state: 'done', fileCount: 1 })
    expect(await readFile(path.join(onDisk, 'page-7.html'), 'utf8')).toContain('<p>new here</p>')
    const destination = (await findDestination(pool(), site.destinationId, site.siteId, site.accountId))!
    const stored = (await loadSite(pool(), site.siteId, site.accountId))!
    const seen = await seeAsVisitors(stored, site.accountId, destination, null, AbortSignal.timeout(60_000), () => {})
    expect(seen).toEqual({ looked: 122, groups: [] })
    expect(await traitsOf(pool(), site.destinationId)).toMatchObject({ showsHome: true, addsSlash: true })
    expect((await siteOf(site.siteId, site.accountId)).pages.every(({ addresses }) => addresses.length > 0)).toBe(true)
  }, 120_000)
}) // prettier-ignore
