import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { pool } from '#server/platform'
import { signUp } from '../accounts/accounts'
import { lookBase, servePreview } from '../preview/preview'
import { invite, removePerson, takeInvitation } from '../sites/people/people'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../testing/support'
import { answerNote, listNotes, removeNote, reopenNote, settleNote, writeNote } from './notes'
import { endSharedLook, listSharedLooks, openSharedLook, shareLook } from './shared-looks'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Visit\n  Terns')
})

const share = () => shareLook(ids.siteId, ids.accountId, { label: 'x', days: 1 })
const visitor = (lookId: string, origin: string = randomUUID()) => ({ name: 'Orla', lookId, origin })
const us = () => ({ name: 'keeper', accountId: ids.accountId })
const about = (pageId: string | null, text = 'North side?') => ({ pageId, place: null, text })
const pageId = async (label: string) =>
  (await siteOf(ids.siteId, ids.accountId)).pages.find((one) => one.label === label)!.id
const end = (id: string) => pool().query("UPDATE shared_looks SET ends_at = now() - interval '1 s' WHERE id = $1", [id]) // prettier-ignore

describe('a look that is shared', () => {
  test('shows the site until it ends or is withdrawn, and through its own site alone', async () => {
    const token = await share()
    const look = (await openSharedLook(token))!
    expect(look.site.id).toBe(ids.siteId)
    expect(await openSharedLook(`${token}x`)).toBeNull()
    const other = await accountWithSite('Home')
    await endSharedLook(other.siteId, look.id)
    expect(await openSharedLook(token)).not.toBeNull()
    await endSharedLook(ids.siteId, look.id)
    expect(await openSharedLook(token)).toBeNull()
    expect(await listSharedLooks(ids.siteId)).toEqual([])
    const next = await share()
    await end((await openSharedLook(next))!.id)
    expect(await openSharedLook(next)).toBeNull()
  })

  test('shows nothing once whoever made it takes part no more', async () => {
    const partner = (await signUp(`${randomUUID()}@saltpan.example`, randomUUID()))!.id
    await takeInvitation(
      await invite(ids.siteId, ids.accountId, { gives: 'partner', label: '', days: 1 }),
      partner,
    )
    const token = await shareLook(ids.siteId, partner, { label: '', days: 1 })
    expect(await openSharedLook(token)).not.toBeNull()
    await removePerson(ids.siteId, partner)
    expect(await openSharedLook(token)).toBeNull()
  })

  test('is served in its frame while it lasts, and only there', async () => {
    await writePage(ids.siteId, ids.accountId, 'Visit', '<p>By the pier</p>')
    const token = await share()
    const look = (await openSharedLook(token))!
    const ask = (base: string, destination = 'iframe') =>
      servePreview(
        new Request(`http://127.0.0.1${base}visit.html`, { headers: { 'sec-fetch-dest': destination } }),
        base.split('/')[2]!,
        'visit.html',
      ).catch((thrown: unknown) => thrown as Response)
    const base = lookBase(ids.siteId, look.id)
    const shown = await ask(base)
    expect(shown.status).toBe(200)
    expect(await shown.text()).toContain('By the pier')
    expect(shown.headers.get('content-security-policy')).toContain('sandbox')
    // Opened by itself it would be a page of ours.
    expect((await ask(base, 'document')).status).toBe(404)
    // Of another site, of no look, and with a signature for something else.
    const other = await accountWithSite('Home')
    expect((await ask(lookBase(other.siteId, look.id))).status).toBe(404)
    expect((await ask(lookBase(ids.siteId, randomUUID()))).status).toBe(404)
    expect((await ask(base.replace(look.id, randomUUID()))).status).toBe(404)
    // An address that has run out says so; a look that has ended shows nothing.
    expect((await ask(lookBase(ids.siteId, look.id, Date.now() - 3_600_000))).status).toBe(410)
    await endSharedLook(ids.siteId, look.id)
    expect((await ask(base)).status).toBe(404)
  })
})

describe('notes', () => {
  test('of a look are seen at that look and by those who take part; theirs by themselves', async () => {
    const [first, second] = [(await openSharedLook(await share()))!, (await openSharedLook(await share()))!]
    const visit = await pageId('Visit')
    const place = { tag: 'p', nth: 2, quote: 'By the pier' }
    const id = await writeNote(ids.siteId, visitor(first.id), { pageId: visit, place, text: 'Which pier?' })
    await writeNote(ids.siteId, visitor(second.id), about(null))
    await writeNote(ids.siteId, us(), about(visit, 'Among us'))
    expect((await listNotes(ids.siteId)).map(({ text, isOurs }) => [text, isOurs])).toEqual([
      ['Which pier?', false],
      ['North side?', false],
      ['Among us', true],
    ])
    expect(await listNotes(ids.siteId, first.id)).toMatchObject([
      { id, pageId: visit, place, author: 'Orla' },
    ])
    await answerNote(ids.siteId, us(), id, 'The old one.')
    const [seen] = await listNotes(ids.siteId, first.id)
    expect(seen!.answers).toMatchObject([{ author: 'keeper', isOurs: true, text: 'The old one.' }])
    // Not through another look, nor another site.
    await expect(answerNote(ids.siteId, visitor(second.id), id, 'x')).rejects.toMatchObject({ status: 404 })
    const other = await accountWithSite('Home')
    await expect(answerNote(other.siteId, us(), id, 'x')).rejects.toMatchObject({ status: 404 })
    await settleNote(other.siteId, id, us())
    await removeNote(other.siteId, id)
    expect((await listNotes(ids.siteId, first.id))[0]!.settled).toBeNull()
  })

  test('are settled with the change that did it, if it was one of that page; and opened again', async () => {
    const [visit, terns] = [await pageId('Visit'), await pageId('Terns')]
    await writePage(ids.siteId, ids.accountId, 'Visit', '<p>Before</p>')
    const onVisit = await writeNote(ids.siteId, us(), about(visit))
    const onTerns = await writeNote(ids.siteId, us(), about(terns))
    await writePage(ids.siteId, ids.accountId, 'Visit', '<p>After</p>')
    await settleNote(ids.siteId, onVisit, us())
    await settleNote(ids.siteId, onTerns, us())
    const settled = async () => new Map((await listNotes(ids.siteId)).map((one) => [one.id, one.settled]))
    expect((await settled()).get(onVisit)).toMatchObject({
      by: 'keeper',
      with: expect.stringContaining('Visit'),
    })
    expect((await settled()).get(onTerns)).toMatchObject({ by: 'keeper', with: null })
    await reopenNote(ids.siteId, onVisit)
    expect((await settled()).get(onVisit)).toBeNull()
  })

  test('are held back by where they come from, and by how many there are', async () => {
    const look = (await openSharedLook(await share()))!
    for (let nth = 0; nth < 40; nth++) await writeNote(ids.siteId, visitor(look.id, 'one'), about(null))
    await expect(writeNote(ids.siteId, visitor(look.id, 'one'), about(null))).rejects.toMatchObject({
      code: 'too-many-attempts',
    })
    await writeNote(ids.siteId, visitor(look.id, 'another'), about(null))
    await pool().query(
      `INSERT INTO notes (id, site_id, author, text) SELECT gen_random_uuid(), $1, 'x', 'y' FROM generate_series(1, 1959)`,
      [ids.siteId],
    )
    await expect(writeNote(ids.siteId, us(), about(null))).rejects.toMatchObject({ code: 'too-many-notes' })
    expect(await listNotes(ids.siteId)).toHaveLength(2_000)
  })
})
