import { randomUUID } from 'node:crypto'
import { mkdir, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { afterAll, beforeEach, expect, test } from '@jest/globals'
import { filesToSend } from '#core/delivery'
import { beginBringing, bringIn, endBringers, lookAtBringing } from '#server/bringing'
import { pool } from '#server/platform'
import { loadSite } from '#server/sites'
import { accountWithSite, practiceForm } from '../../testing/support'
import { hostSuite } from '../../testing/delivering-suite'
import { findDestination, listDestinations } from '../places/destination-rows'
import { compareKnown, lookThere } from './compare'
import { type FetchPlace, fetchSite, learnPlace, placeOfBringing, sendBackTo } from './fetch-site'

const suite = hostSuite()
let owner: { accountId: string; siteId: string }
beforeEach(async () => {
  owner = await accountWithSite('Home')
})
afterAll(() => endBringers())

const fetching = async (more: Partial<FetchPlace> = {}) => {
  const { name: _, ...place } = practiceForm(suite.host, 'old-site')
  const from: FetchPlace = { ...place, ...more }
  return { from, hostKey: await learnPlace(owner.accountId, from) }
}

test.each(['sftp', 'ftps'] as const)(
  'a site that stands at a host already is fetched over %s, brought in, and sent back there without a file that did not change',
  async (protocol) => {
    const html = (title: string) =>
      `<!DOCTYPE html>\n<html lang="en"><head><meta charset="utf-8"><title>${title}</title></head>\n<body>\n<h1>${title}</h1>\n<p><a href="b.html">b</a></p>\n</body></html>\n`
    const at = path.join(suite.host.publicPath, 'old-site')
    await mkdir(path.join(at, 'pics'), { recursive: true })
    for (const [name, text] of [
      ['index.html', html('Old')],
      ['b.html', html('B')],
      ['pics/dot.gif', 'GIF89a'],
      ['pics/x.html.0123abcd00000000.rubricant-part', 'x'],
    ] as const)
      await writeFile(path.join(at, name), text)
    const { from, hostKey } = await fetching(
      protocol === 'ftps' ? { protocol, port: suite.host.ftpPort } : {},
    )
    const id = await beginBringing(owner.accountId, '')
    const told: number[] = []
    expect(
      await fetchSite(
        owner.accountId,
        id,
        from,
        hostKey,
        new AbortController().signal,
        (done) => void told.push(done),
      ),
    ).toBe(3)
    expect(told.at(-1)).toBe(3)
    const wishes = {
      names: 'kept',
      lifts: false,
      generates: false,
      planBy: 'found',
      same: 'leave',
      frame: 'own',
    } as const
    const place = await placeOfBringing(id)
    const siteId = await bringIn(owner.accountId, id, { ...wishes, name: '' }, randomUUID())
    await sendBackTo(id, place!, siteId, owner.accountId)
    const [destination] = await listDestinations(pool(), siteId)
    expect(destination).toMatchObject({ protocol, host: '127.0.0.1', folder: 'public/old-site' })
    // It is read back once, and nothing of it has to go again.
    const stored = (await loadSite(pool(), siteId, owner.accountId))!
    await lookThere((await findDestination(pool(), destination!.id, siteId, owner.accountId))!, stored)
    expect(filesToSend(await compareKnown(stored, destination!.id)).map(({ path: name }) => name)).toEqual([])
    await rm(at, { recursive: true })
  },
)

test.each(['sftp', 'ftp'] as const)(
  'a site that stands at a host comes over %s without what is locked there, and that is told',
  async (protocol) => {
    const at = path.join(suite.host.publicPath, 'old-site')
    for (const name of ['logs', 'private']) await mkdir(path.join(at, name), { recursive: true })
    for (const name of ['index.html', 'secret.txt', 'logs/today.txt', 'private/a.html'])
      await writeFile(
        path.join(at, name),
        '<!DOCTYPE html>\n<html lang="en"><head><meta charset="utf-8"><title>Old</title></head>\n<body><h1>Old</h1></body></html>\n',
      )
    // One in ISO 8859-1, which the practice host shows over FTP alone; one decomposed, as disks of macOS have it.
    for (const name of ['B\xe4r.gif', 'voila\xcc\x80.gif'])
      await writeFile(Buffer.concat([Buffer.from(`${at}/`), Buffer.from(name, 'latin1')]), 'GIF89a')
    const pictures = protocol === 'ftp' ? ['Bär.gif', 'voilà.gif'] : ['voilà.gif']
    for (const name of ['secret.txt', '/logs']) suite.host.faults.shut.add(name)
    const { from, hostKey } = await fetching(protocol === 'ftp' ? { protocol, port: suite.host.ftpPort } : {})
    const id = await beginBringing(owner.accountId, '')
    expect(await fetchSite(owner.accountId, id, from, hostKey, new AbortController().signal, () => {})).toBe(
      2 + pictures.length,
    )
    const { rows } = await pool().query<{ path: string }>(
      "SELECT path FROM brought_files WHERE bringing_id = $1 AND path LIKE '%.gif' ORDER BY path",
      [id],
    )
    expect(rows.map((one) => one.path)).toEqual(pictures)
    const view = await lookAtBringing(owner.accountId, id, {
      names: 'kept',
      lifts: false,
      generates: false,
      planBy: 'found',
      same: 'leave',
      frame: 'own',
    })
    expect(
      view.remarks
        .filter(({ why }) => why.includes('not read it'))
        .map((remark) => remark.path)
        .sort(),
    ).toEqual(['logs/', 'secret.txt'])
    // Of what is locked alone, nothing came.
    for (const ending of ['.html', '.gif']) suite.host.faults.shut.add(ending)
    const nothing = await beginBringing(owner.accountId, '')
    const asked = fetchSite(owner.accountId, nothing, from, hostKey, new AbortController().signal, () => {})
    await expect(asked).rejects.toMatchObject({ code: 'not-allowed' })
    suite.host.faults.reset()
    await rm(at, { recursive: true })
  },
)

test('a site is not fetched for a stranger, into what is another’s, or from where nothing is', async () => {
  const { from, hostKey } = await fetching({ folder: 'public/nowhere' })
  const id = await beginBringing(owner.accountId, '')
  const ask = (accountId: string) =>
    fetchSite(accountId, id, from, hostKey, new AbortController().signal, () => {})
  await expect(ask((await accountWithSite('Home')).accountId)).rejects.toMatchObject({ status: 404 })
  await expect(ask(owner.accountId)).rejects.toMatchObject({ code: 'not-there' })
  expect(await placeOfBringing(id)).toBeNull()
})
