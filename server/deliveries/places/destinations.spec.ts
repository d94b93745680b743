import { randomUUID } from 'node:crypto'
import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import ssh2 from 'ssh2'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { pool } from '#server/platform'
import { loadSite } from '#server/sites'
import {
  accountWithSite,
  askFor,
  freshDatabase,
  lookAt,
  practiceForm,
  practiceHost,
  siteOf,
  statesOf,
  writePage,
} from '../../testing/support'
import { seeAsVisitors } from '../looking/as-seen'
import { seenOf } from '../looking/seen-rows'
import { traitsOf } from './web-host-rows'
import { listDeliveries } from '../sending/delivery-rows'
import { findDestination, listDestinations } from './destination-rows'
import {
  type DestinationForm,
  removeDestination,
  saveDestination,
  testDestination,
  addKnownHost,
} from './destinations'
import { findFolder, findProtocol } from './find-way'
import { publicKeyOf } from './sign-in'
import { listKnownHosts } from './web-host-rows'
import { transportOf } from '../transfer/transports'
import { addPracticeHost, offersPracticeHost } from './practice'
import { runDelivery } from '../sending/run'

let database: Awaited<ReturnType<typeof freshDatabase>>
let host: Awaited<ReturnType<typeof practiceHost>>
let owner: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
  host = await practiceHost()
  process.env.RUBRICANT_DEMO = 'true'
  process.env.PRACTICE_SFTP_PORT = String(host.sftpPort)
  process.env.PRACTICE_WEB_PORT = String(host.webPort)
  process.env.PRACTICE_PASSWORD = host.password
})
afterEach(() => host.faults.reset())
afterAll(async () => {
  await host.end()
  await database.close()
})
beforeEach(async () => {
  owner = await accountWithSite('Home\n  Visit\n  Birds')
})

const form = (more: Partial<DestinationForm> = {}): DestinationForm => practiceForm(host, owner.siteId, more)
const save = async (values: DestinationForm, id: string | null = null, whose = owner) =>
  saveDestination(values, id, whose, (await testDestination(values, id, whose, null)).hostKey)
const deliver = async (destinationId: string, whose = owner) => {
  const delivery = await askFor({ ...whose, destinationId })
  expect(await runDelivery(delivery!.id)).toBe(true)
  const { rows } = await pool().query('SELECT state, error_message FROM deliveries WHERE id = $1', [delivery!.id])
  expect(rows).toEqual([{ state: 'done', error_message: null }])
  expect((await siteOf(whose.siteId, whose.accountId)).pages.every(({ addresses }) => addresses.length > 0)).toBe(true)
} // prettier-ignore

test.each([
  ['ftps', () => ({ protocol: 'ftps', port: host.ftpPort }), /^SHA256:/],
  ['ftps-implicit', () => ({ protocol: 'ftps-implicit', port: host.ftpsPort }), /^SHA256:/],
  ['ftp', () => ({ protocol: 'ftp', port: host.ftpPort }), /^none$/],
] as const)('a site goes over %s, and only what changed the next time', async (_, more, key) => {
  const values = form(more())
  const tested = await testDestination(values, null, owner, null)
  expect(tested).toMatchObject({ fileCount: null })
  expect(tested.hostKey).toMatch(key)
  const id = await save(values)
  await deliver(id)
  const page = await readFile(path.join(host.publicPath, owner.siteId, 'visit.html'), 'utf8')
  expect(page).toContain('<h1>Visit</h1>')
  await deliver(id)
  const [second, first] = await listDeliveries(pool(), id, 2)
  expect(first!.fileCount).toBeGreaterThan(3)
  expect(second!.fileCount).toBe(0)
})

test('a password that was given for one protocol is sent over no other without being asked for again', async () => {
  const id = await save(form({ protocol: 'ftps', port: host.ftpPort }))
  const plain = form({ protocol: 'ftp', port: host.ftpPort, password: null })
  await expect(testDestination(plain, id, owner, 'none')).rejects.toMatchObject({ code: 'password-again' })
  await expect(saveDestination(plain, id, owner, 'none')).rejects.toMatchObject({ code: 'password-again' })
  await saveDestination({ ...plain, password: host.password }, id, owner, 'none')
  expect(await findDestination(pool(), id, owner.siteId, owner.accountId)).toMatchObject({ protocol: 'ftp' })
})

describe('a web host that is known already', () => {
  const secondSite = async () => {
    const { siteId } = await accountWithSite('Home\n  A')
    await pool().query('UPDATE sites SET account_id = $1 WHERE id = $2', [owner.accountId, siteId])
    return { accountId: owner.accountId, siteId }
  }

  test('serves another site of the account, in a folder of its own, without its password', async () => {
    await save(form({ name: 'Ours' }))
    const second = await secondSite()
    const [known, ...more] = await listKnownHosts(pool(), owner.accountId, second.siteId)
    expect(more).toEqual([])
    expect(known).toMatchObject({ name: 'Ours', siteName: 'Saltpan Chapel', host: '127.0.0.1' })
    expect(known).not.toHaveProperty('secretSealed')
    const id = await addKnownHost(known!.id, await siteOf(second.siteId, second.accountId), second)
    await deliver(id, second)
    const [made] = await listDestinations(pool(), second.siteId)
    expect(made).toMatchObject({ folder: `public/${owner.siteId}/saltpan-chapel`, otherCount: 1, webHostId: known!.id })
    // Offered once, and no more where it is.
    expect(await listKnownHosts(pool(), owner.accountId, second.siteId)).toEqual([])
    // Another host gets nothing of it.
    const elsewhere = form({ port: host.sftpPort + 1, password: null })
    await expect(testDestination(elsewhere, null, second, known!.hostKey)).rejects.toMatchObject({ code: 'no-password' })
  })

  test('has one password for all that go there, and is forgotten with the last of them', async () => {
    const first = await save(form())
    const second = await secondSite()
    const id = await save(form({ folder: `public/${second.siteId}`, password: null }), null, second)
    await pool().query("UPDATE web_hosts SET secret_sealed = '' WHERE account_id = $1", [owner.accountId])
    const opens = async () => findDestination(pool(), id, second.siteId, second.accountId)
    await save(form(), first)
    await deliver(id, second)
    const count = async () =>
      (await pool().query('SELECT 1 FROM web_hosts WHERE account_id = $1', [owner.accountId])).rows.length
    expect(await count()).toBe(1)
    await removeDestination(first, owner)
    expect(await count()).toBe(1)
    expect(await opens()).toMatchObject({ otherCount: 0 })
    await removeDestination(id, second)
    expect(await count()).toBe(0)
  })

  test('of another account is not to be had', async () => {
    await save(form())
    const stranger = await accountWithSite('Home')
    expect(await listKnownHosts(pool(), stranger.accountId, stranger.siteId)).toEqual([])
    const mine = (await listDestinations(pool(), owner.siteId))[0]!
    await expect(addKnownHost(mine.webHostId, { id: stranger.siteId, name: 'x' }, stranger)).rejects.toMatchObject({ status: 404 })
    await expect(testDestination(form({ password: null }), null, stranger, 'none')).rejects.toMatchObject({ code: 'no-password' })
  })
}) // prettier-ignore

describe('a key', () => {
  /** Puts a public key into the list of an account of the practice host. */
  const allow = async (publicKey: string) => {
    await mkdir(path.join(host.publicPath, '..', '.ssh'), { recursive: true })
    await writeFile(path.join(host.publicPath, '..', '.ssh', 'authorized_keys'), `# ours\n${publicKey}\n`)
  }
  const byKey = (more: Partial<DestinationForm> = {}) => form({ signIn: 'made-key', password: null, ...more })

  test('is made once for an account, its public half is shown, and it signs in where the host knows it', async () => {
    const shown = await publicKeyOf(owner.accountId)
    expect(shown).toMatch(/^ssh-ed25519 [A-Za-z0-9+/]+=* rubricant$/)
    expect(await publicKeyOf(owner.accountId)).toBe(shown)
    await allow('ssh-ed25519 AAAA somebody')
    host.faults.seenPassword = false
    await expect(save(byKey())).rejects.toMatchObject({ code: 'key-refused' })
    await allow(shown)
    await deliver(await save(byKey()))
    const { rows } = await pool().query('SELECT * FROM account_keys WHERE account_id = $1', [owner.accountId])
    expect(JSON.stringify(rows)).not.toContain('PRIVATE')
    expect(host.faults.seenPassword).toBe(false)
  })

  test('of the author’s own is taken with its passphrase, and is sealed', async () => {
    const own = ssh2.utils.generateKeyPairSync('ecdsa', { bits: 256, passphrase: 'three wet herons', cipher: 'aes256-cbc' })
    await allow(own.public)
    const with_ = (more: object) => byKey({ signIn: 'own-key', privateKey: own.private, ...more })
    await expect(save(with_({ passphrase: 'wrong' }))).rejects.toMatchObject({ code: 'key-passphrase' })
    await expect(save(with_({ privateKey: 'no key' }))).rejects.toMatchObject({ code: 'bad-key' })
    await expect(save(with_({ privateKey: own.public, passphrase: '' }))).rejects.toMatchObject({ code: 'bad-key' })
    const id = await save(with_({ passphrase: 'three wet herons' }))
    await deliver(id)
    // It is not asked for again at this place, and for another one it is.
    await deliver(await save(with_({ privateKey: null }), id))
    await expect(save(with_({ privateKey: null, account: 'else' }), id)).rejects.toMatchObject({ code: 'no-key' })
    const { rows } = await pool().query<{ secret_sealed: Buffer }>('SELECT secret_sealed FROM web_hosts')
    for (const row of rows) expect(row.secret_sealed.toString('latin1')).not.toMatch(/PRIVATE|herons/)
  })
}) // prettier-ignore

describe('the way to a host', () => {
  const nobody = () => {}
  const find = (more: Partial<DestinationForm> = {}, signal = AbortSignal.timeout(30_000)) =>
    findFolder(form({ folder: '', ...more }), null, owner, hostKey, signal, nobody)
  let hostKey: string
  beforeAll(async () => {
    const form = { protocol: 'sftp', host: '127.0.0.1', port: host.sftpPort }
    hostKey = await transportOf(form).learnKey(form.host, form.port, {})
  })

  test('is found by what it speaks, at the port that was told', async () => {
    for (const [port, protocol] of [[host.sftpPort, 'sftp'], [host.ftpPort, 'ftps']] as const)
      expect(await findProtocol(owner.accountId, '127.0.0.1', port, AbortSignal.timeout(60_000), nobody)).toMatchObject({ protocol, port })
    await expect(findProtocol(owner.accountId, '127.0.0.1', 9, AbortSignal.timeout(60_000), nobody)).rejects.toMatchObject({ code: 'no-way' })
    await expect(findProtocol(owner.accountId, '127.0.0.1', host.sftpPort, AbortSignal.abort(), nobody)).rejects.toMatchObject({ code: 'stopped' })
  }, 90_000)

  test('leads to the folder that visitors see, and nothing is left of the looking', async () => {
    await mkdir(path.join(host.publicPath, '..', 'private'), { recursive: true })
    const before = (await readdir(path.join(host.publicPath, '..'), { recursive: true })).sort()
    expect(await find({ publicAddress: `http://127.0.0.1:${host.webPort}/` })).toMatchObject({ folder: 'public' })
    // An address below it names a folder below it, whether it is there yet or not.
    const below = { publicAddress: `http://127.0.0.1:${host.webPort}/birds/of%20ours/` }
    expect(await find(below)).toMatchObject({ folder: 'public/birds/of ours' })
    expect((await readdir(path.join(host.publicPath, '..'), { recursive: true })).sort()).toEqual(before)
  })

  test('that leads nowhere is told, and nothing is left then either', async () => {
    const before = (await readdir(path.join(host.publicPath, '..'), { recursive: true })).sort()
    const elsewhere = { publicAddress: `http://127.0.0.1:${host.webPort + 1}/` }
    await expect(find(elsewhere)).rejects.toMatchObject({ code: 'no-folder' })
    host.faults.readOnly = true
    await expect(find()).rejects.toMatchObject({ code: 'no-folder' })
    host.faults.readOnly = false
    await expect(find({}, AbortSignal.abort())).rejects.toMatchObject({ code: 'stopped' })
    expect((await readdir(path.join(host.publicPath, '..'), { recursive: true })).sort()).toEqual(before)
  })
}) // prettier-ignore

test('the practice host gives each account a space of its own, and each site an address', async () => {
  expect(offersPracticeHost([])).toBe(true)
  const id = await addPracticeHost(await siteOf(owner.siteId, owner.accountId), owner)
  await deliver(id)
  const [made] = await listDestinations(pool(), owner.siteId)
  expect(offersPracticeHost([made!])).toBe(false)
  expect(await (await fetch(new URL('visit.html', made!.publicAddress))).text()).toContain('<h1>Visit</h1>')
  const other = await accountWithSite('Home')
  await addPracticeHost(await siteOf(other.siteId, other.accountId), other)
  const [theirs] = await listDestinations(pool(), other.siteId)
  expect(theirs!.account).not.toBe(made!.account)
  // Nobody sees what is another's: their folder is none of mine.
  const peek = form({ account: theirs!.account, folder: made!.folder })
  await expect(save(peek, null, other)).rejects.toMatchObject({ code: 'wrong-host-password' })
})

test('what visitors get is compared with what was sent', async () => {
  const id = await save(form())
  await deliver(id)
  const look = async (publicAddress?: string, deliveryId: string | null = null) => {
    await pool().query('DELETE FROM rate_limits')
    const destination = (await findDestination(pool(), id, owner.siteId, owner.accountId))!
    const stored = (await loadSite(pool(), owner.siteId, owner.accountId))!
    const told: number[] = []
    const seen = await seeAsVisitors(stored, owner.accountId, { ...destination, ...(publicAddress && { publicAddress }) }, deliveryId, new AbortController().signal, (done) => void told.push(done))
    expect(told.length).toBe(seen.looked)
    return seen
  }
  expect(await look()).toEqual({ looked: 4, groups: [] })
  // Looked at again, it is not sent again; what somebody changed is seen all the same.
  const before = { ...host.faults.visitors }
  expect(await look()).toEqual({ looked: 4, groups: [] })
  expect(host.faults.visitors).toEqual({ sent: before.sent, told: before.told + 4 })
  // Of what one delivery sent, no more is asked for; and nothing of what none of its own did.
  await writePage(owner.siteId, owner.accountId, 'Birds', '<p>new here</p>')
  await deliver(id)
  const [latest] = await listDeliveries(pool(), id, 1)
  expect(await seenOf(pool(), latest!.id)).toBeNull()
  expect(await look(undefined, latest!.id)).toEqual({ looked: 1, groups: [] })
  expect(await seenOf(pool(), latest!.id)).toEqual({ looked: 1, groups: [] })
  expect(await look(undefined, randomUUID())).toEqual({ looked: 0, groups: [] })
  const at = path.join(host.publicPath, owner.siteId)
  await writeFile(path.join(at, 'visit.html'), 'changed by somebody')
  await rm(path.join(at, 'birds.html'))
  expect((await look()).groups).toMatchObject([
    { fault: 'missing', paths: ['birds.html'], first: expect.stringContaining('/birds.html') as unknown },
    { fault: 'other', paths: ['visit.html'] },
  ])
  const [elsewhere] = (await look(`http://127.0.0.1:${host.webPort}/elsewhere/`)).groups
  expect(elsewhere!.what).toContain('Nothing of this site is at its public address')
  expect((await look('http://127.0.0.1:9/')).groups[0]!.what).toContain('Nobody answers at the public address')
}) // prettier-ignore

test.each([
  ['is led on where the slash is missing', 'added', undefined, { showsHome: true, addsSlash: true }],
  ['finds nothing without the slash', 'needed', undefined, { showsHome: true, addsSlash: false }],
  [
    'gets a page without the slash whose references lead elsewhere',
    'not wanted',
    undefined,
    { showsHome: true, addsSlash: false },
  ],
  ['gets no home page at a folder', 'added', ['default.htm'], { showsHome: false }],
] as const)('who comes to a folder’s address %s', async (_, slashes, homeFiles, traits) => {
  owner = await accountWithSite('Home\n  Visit\n    Tours\n  Birds')
  const id = await save(
    form({
      folder: `public/${owner.siteId}`,
      publicAddress: `http://127.0.0.1:${host.webPort}/${owner.siteId}/`,
    }),
    null,
  )
  await deliver(id)
  Object.assign(host.faults, { slashes, ...(homeFiles && { homeFiles }) })
  const look = async () => {
    const destination = (await findDestination(pool(), id, owner.siteId, owner.accountId))!
    const stored = (await loadSite(pool(), owner.siteId, owner.accountId))!
    return seeAsVisitors(stored, owner.accountId, destination, null, new AbortController().signal, () => {})
  }
  const { groups, looked } = await look()
  expect(looked).toBe(5)
  expect(groups.map(({ fault, paths }) => [fault, paths])).toEqual(
    traits.showsHome ? [] : [['folder', ['index.html', 'visit/index.html']]],
  )
  expect(await traitsOf(pool(), id)).toEqual({ tellsCase: true, setsTimes: true, ...traits })
  // It is no news that the place is tried again; and over when it is.
  await save(
    form({
      folder: `public/${owner.siteId}`,
      publicAddress: `http://127.0.0.1:${host.webPort}/${owner.siteId}/`,
    }),
    id,
  )
  expect(await traitsOf(pool(), id)).toMatchObject(traits)
  host.faults.reset()
  await look()
  expect(await traitsOf(pool(), id)).toMatchObject({ showsHome: true, addsSlash: true })
  // A file in front of the home page tells nothing of folders.
  host.faults.homeFiles = ['first.html', 'index.html']
  for (const at of ['first.html', 'visit/first.html'])
    await writeFile(path.join(host.publicPath, owner.siteId, at), 'a host’s own')
  expect((await look()).groups).toMatchObject([
    {
      fault: 'folder',
      paths: ['index.html', 'visit/index.html'],
      first: `http://127.0.0.1:${host.webPort}/${owner.siteId}/`,
    },
  ])
  expect(await traitsOf(pool(), id)).toMatchObject({ showsHome: true })
})

test('an error page refers to the rest from where visitors see the site, at each of its destinations', async () => {
  owner = await accountWithSite('Home\n  Visit\n  404')
  const places = [`public/${owner.siteId}`, `public/${owner.siteId}-trial`]
  for (const [index, folder] of places.entries()) {
    const name = folder.slice('public/'.length)
    const id = await save(form({ folder, publicAddress: `http://127.0.0.1:${host.webPort}/${name}/` }), null)
    await deliver(id)
    const text = (at: string) => readFile(path.join(host.publicPath, name, at), 'utf8')
    expect(await text('404.html')).toContain(`href="/${name}/styles/site.css"`)
    expect(await text('visit.html')).toContain('href="styles/site.css"')
    // And all of it is known to be there as it is here.
    await lookAt({ ...owner, destinationId: id })
    expect([index, await statesOf({ ...owner, destinationId: id })]).toEqual([index, { same: 4 }])
  }
})
