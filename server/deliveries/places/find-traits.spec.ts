import { readdir, readFile, stat, utimes, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { expect, test } from '@jest/globals'
import { pool } from '#server/platform'
import { changeSite } from '#server/sites'
import { hostSuite, planOf } from '../../testing/delivering-suite'
import { accountWithSite, askFor, lookAt, practiceForm, siteOf, statesOf } from '../../testing/support'
import { runDelivery } from '../sending/run'
import { type DestinationForm, saveDestination, testDestination } from './destinations'
import { traitsOf } from './web-host-rows'

const suite = hostSuite()

/** A site with a destination at the host as it is set. */
async function siteThere(more: Partial<DestinationForm> = {}, plan = 'Home\n  Visit\n  Birds') {
  const owner = await accountWithSite(plan)
  const form: DestinationForm = practiceForm(suite.host, owner.siteId, more)
  const { hostKey } = await testDestination(form, null, owner, null)
  const destinationId = await saveDestination(form, null, owner, hostKey)
  const there = { ...owner, destinationId }
  const folder = path.join(suite.host.publicPath, owner.siteId)
  return {
    there,
    folder,
    traits: () => traitsOf(pool(), destinationId),
    files: async () => (await readdir(folder)).filter((name) => name.endsWith('.html')).sort(),
    read: (name: string) => readFile(path.join(folder, name), 'utf8'),
    async rename(ownName: string) {
      const { pages } = await siteOf(owner.siteId, owner.accountId)
      const { id: pageId, ownName: was } = pages.find(({ label }) => label === 'Visit')!
      const change = { kind: 'setPageText', pageId, field: 'ownName', value: ownName, was } as const
      await changeSite(owner.siteId, owner.accountId, 0, () => change)
    },
    async deliver(wishes: Parameters<typeof askFor>[1] = {}) {
      const delivery = (await askFor(there, wishes))!
      expect(await runDelivery(delivery.id)).toBe(true)
    },
  }
}

const ways = [
  ['SFTP', () => ({})],
  ['FTP', () => ({ protocol: 'ftp', port: suite.host.ftpPort })],
] as const

test.each(ways)(
  'over %s, a host as most are says nothing of itself but that it tells case apart',
  async (_, more) => {
    const { traits } = await siteThere(more())
    expect(await traits()).toEqual({ tellsCase: true, setsTimes: true })
  },
)

test.each(ways)(
  'over %s, what is odd at a host is found when it is tried, kept, and forgotten when it is over',
  async (_, more) => {
    Object.assign(suite.host.faults, {
      foldsCase: true,
      renameReplaces: false,
      longestName: 97,
      times: 'left',
    })
    const { there, traits, files } = await siteThere(more())
    // What is written goes under a longer name for a moment: that much is not left for its own.
    expect(await traits()).toEqual({
      tellsCase: false,
      replaces: false,
      setsTimes: false,
      longestName: 97 - '.0123abcd01234567.rubricant-part'.length,
    })
    expect(await files()).toEqual([])
    suite.host.faults.reset()
    const form = practiceForm(suite.host, there.siteId, more())
    const { hostKey } = await testDestination(form, there.destinationId, there, null)
    await saveDestination(form, there.destinationId, there, hostKey)
    expect(await traits()).toEqual({ tellsCase: true, setsTimes: true })
  },
)

test.each(ways)(
  'over %s, files are given the right time where the host’s clock is wrong and lets it be set',
  async (_, more) => {
    const near = async (folder: string) => {
      const { mtimeMs } = await stat(path.join(folder, 'index.html'))
      return Math.round(Math.abs(mtimeMs - Date.now()) / 3_600_000)
    }
    suite.host.faults.clockSeconds = 3 * 3_600
    const set = await siteThere(more())
    expect(await set.traits()).toEqual({ tellsCase: true, setsTimes: true, clockSeconds: 3 * 3_600 })
    await set.deliver()
    expect(await near(set.folder)).toBe(0)
    await lookAt(set.there)
    expect(await statesOf(set.there)).toEqual({ same: 4 })
    // One that takes the time and leaves it, one that refuses, and one that would set another.
    for (const times of ['left', 'refused', 'of its zone'] as const) {
      suite.host.faults.times = times
      const left = await siteThere(more())
      expect(await left.traits()).toMatchObject({ setsTimes: false, clockSeconds: 3 * 3_600 })
      await left.deliver()
      expect(await near(left.folder)).toBe(3)
      await lookAt(left.there)
      expect(await statesOf(left.there)).toEqual({ same: 4 })
    }
  },
)

test('a clock that goes wrong, or right again, is noticed while files are sent', async () => {
  const { there, traits, deliver, rename, folder } = await siteThere()
  await deliver()
  suite.host.faults.clockSeconds = -86_400
  await rename('tours')
  await deliver()
  expect(await traits()).toEqual({ tellsCase: true, setsTimes: true, clockSeconds: -86_400 })
  expect(Math.abs((await stat(path.join(folder, 'tours.html'))).mtimeMs - Date.now())).toBeLessThan(600_000)
  suite.host.faults.clockSeconds = 0
  await rename('visits')
  await deliver()
  expect(await traits()).toMatchObject({ clockSeconds: 0 })
  await lookAt(there)
  expect(Object.keys(await statesOf(there))).toEqual(['same'])
})

test('files are the same half a year later, when an old listing tells no hour of them any more', async () => {
  suite.host.faults.listing = 'unix'
  const { there, deliver, folder } = await siteThere({ protocol: 'ftp', port: suite.host.ftpPort })
  await deliver()
  await lookAt(there)
  expect(await statesOf(there)).toEqual({ same: 4 })
  suite.host.faults.clockSeconds = 200 * 86_400
  // None of them has to be read for that.
  suite.host.faults.failures.set('RETR', 100)
  await lookAt(there)
  expect(await statesOf(there)).toEqual({ same: 4 })
  expect(suite.host.faults.failures.get('RETR')).toBe(100)
  // One of another day is looked into, and is another.
  suite.host.faults.failures.clear()
  const birds = path.join(folder, 'birds.html')
  await writeFile(birds, 'x'.repeat((await stat(birds)).size))
  await utimes(birds, 1_700_000_000, 1_700_000_000)
  await lookAt(there)
  expect(await statesOf(there)).toEqual({ same: 3, 'changed there': 1 })
})

test('connections that a host takes are counted when it takes no more, and one more is tried the next time', async () => {
  // So many pages at once that each of eight connections would be wanted.
  const { traits, deliver } = await siteThere({ protocol: 'ftp', port: suite.host.ftpPort }, planOf(40))
  suite.host.faults.connections = 2
  await deliver()
  const { connections } = await traits()
  expect([1, 2]).toContain(connections)
}) // prettier-ignore

test('what a host keeps to its account is known from the first file on', async () => {
  suite.host.faults.closedFiles = true
  const { traits } = await siteThere({ protocol: 'ftp', port: suite.host.ftpPort })
  expect(await traits()).toMatchObject({ opens: false })
})

test.each([['it was tried', true], ['it never was', false]])('a page whose name changes its case alone is not removed from a host that does not tell case apart, when %s', async (_, isKnown) => {
  suite.host.faults.foldsCase = true
  const { there, traits, files, read, rename, deliver } = await siteThere()
  if (!isKnown) await pool().query(`UPDATE web_hosts SET traits = '{}'`)
  await rename('VISIT')
  await deliver({ removeLeftovers: true })
  expect(await files()).toEqual(['VISIT.html', 'birds.html', 'index.html'])
  await rename('visit')
  await deliver({ removeLeftovers: true })
  expect(await files()).toEqual(['VISIT.html', 'birds.html', 'index.html'])
  expect(await traits()).toMatchObject({ tellsCase: false })
  await deliver({ removeLeftovers: true })
  expect(await files()).toEqual(['VISIT.html', 'birds.html', 'index.html'])
  expect(await read('VISIT.html')).toContain('<h1>Visit</h1>')
  await lookAt(there)
  // Where case is told apart, the old one goes, or forwards.
  suite.host.faults.foldsCase = false
  const apart = await siteThere()
  await apart.rename('VISIT')
  await apart.deliver()
  await apart.rename('visit')
  await apart.deliver({ removeLeftovers: true })
  expect(await apart.files()).toEqual(['birds.html', 'index.html', 'visit.html'])
}) // prettier-ignore
