import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import type { Change } from '#core/change'
import { checkSite, type Site } from '#core/site'
import { pool } from '#server/platform'
import { signUp } from '../../accounts/accounts'
import { getTexts, putBlob } from '../../contents/blobs'
import { accountWithSite, freshDatabase, siteOf } from '../../testing/support'
import { catchUp, changeSite } from '../changes/changes'
import { stepHistory } from '../changes/step-history'
import { deleteSite, listSites } from '../rows/site-rows'
import { invite, isForMany, lookAtInvitation, removePerson, takeInvitation, changeRole } from './people'
import { copyOf, endInvitation, listHandedOut, listInvitations, listPeople } from './people-rows'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
let ada: string
let ben: string
const newAccount = async () => (await signUp(`${randomUUID()}@saltpan.example`, randomUUID()))!.id
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())

const now = () => siteOf(ids.siteId, ids.accountId)
const page = async (label: string) => (await now()).pages.find((one) => one.label === label)!
const make = async (who: string, change: Change) => {
  const saved = await changeSite(ids.siteId, who, 0, () => change)
  expect(checkSite(await now())).toEqual([])
  return saved
}
const write = async (who: string, label: string, html: string) => {
  const { id, content } = await page(label)
  const hash = await putBlob(pool(), html)
  return make(who, { kind: 'setContent', pageId: id, content: hash, was: content })
}
const textOf = async (label: string) => {
  const { content } = await page(label)
  return (await getTexts(pool(), [content])).get(content)
}
const step = async (who: string, direction: 'undo' | 'redo' = 'undo') => {
  const saved = await stepHistory(ids.siteId, who, 0, direction)
  expect(checkSite(await now())).toEqual([])
  return saved
}
const label = (to: string, of: { id: string; label: string }): Change => ({
  kind: 'setPageText',
  pageId: of.id,
  field: 'label',
  value: to,
  was: of.label,
})

/** A site with its owner, a partner (Ada) and a writer (Ben). */
async function begin(plan = 'Home\n  Visit\n  Terns\n  Contact'): Promise<void> {
  ids = await accountWithSite(plan)
  ada = await newAccount()
  ben = await newAccount()
  for (const [who, gives] of [
    [ada, 'partner'],
    [ben, 'writer'],
  ] as const)
    // prettier-ignore
    await takeInvitation(await invite(ids.siteId, ids.accountId, { gives, label: '', days: 1 }), who)
}

describe('an invitation', () => {
  test('lets one person take part, is of no use to the next, and gives nothing once it has ended', async () => {
    await begin()
    const token = await invite(ids.siteId, ids.accountId, { gives: 'writer', label: 'Cleo', days: 1 })
    expect(await lookAtInvitation(token)).toMatchObject({ siteName: 'Saltpan Chapel', gives: 'writer' })
    const [cleo, dan] = [await newAccount(), await newAccount()]
    // Several at once, also where one began before another ended it: one of them is let in.
    const rush = [cleo, dan, ...(await Promise.all(Array.from({ length: 6 }, newAccount)))]
    const taken = await Promise.allSettled(rush.map((who) => takeInvitation(token, who)))
    expect(taken.filter(({ status }) => status === 'fulfilled')).toHaveLength(1)
    expect(await lookAtInvitation(token)).toBeNull()
    await expect(takeInvitation(token, dan)).rejects.toMatchObject({ code: 'no-invitation' })
    const withdrawn = await invite(ids.siteId, ids.accountId, { gives: 'partner', label: '', days: 1 })
    const [open] = await listInvitations(pool(), ids.siteId)
    // Of one site it is not ended through another.
    await endInvitation(pool(), (await accountWithSite('Home')).siteId, open!.id)
    expect(await lookAtInvitation(withdrawn)).not.toBeNull()
    await endInvitation(pool(), ids.siteId, open!.id)
    await expect(takeInvitation(withdrawn, dan)).rejects.toMatchObject({ code: 'no-invitation' })
    expect(await lookAtInvitation('x')).toBeNull()
    // A class comes with one address; whoever is invited alone does not.
    const copies = await invite(ids.siteId, ids.accountId, { gives: 'copy', label: '', days: 1 })
    const alone = await invite(ids.siteId, ids.accountId, { gives: 'writer', label: '', days: 1 })
    const paths = [
      `/invitations/${copies}`,
      `/invitations/${alone}`,
      `/x/invitations/${copies}`,
      '/invitations/x',
      '',
    ]
    expect(await Promise.all(paths.map(isForMany))).toEqual([true, false, false, false, false])
  })

  test('never makes less of somebody, nor of the owner anything else', async () => {
    await begin()
    const invitation = () => invite(ids.siteId, ids.accountId, { gives: 'writer', label: '', days: 1 })
    expect(await takeInvitation(await invitation(), ada)).toBe(ids.siteId)
    expect(await takeInvitation(await invitation(), ids.accountId)).toBe(ids.siteId)
    await changeRole(ids.siteId, ids.accountId, 'reader')
    await removePerson(ids.siteId, ids.accountId)
    const people = await listPeople(pool(), ids.siteId)
    expect(people.map(({ accountId, role }) => [accountId, role])).toEqual([
      [ids.accountId, 'owner'],
      [ada, 'partner'],
      [ben, 'writer'],
    ])
  })

  test('hands out copies: each has one of its own, which whoever handed it out may read', async () => {
    await begin()
    await write(ids.accountId, 'Visit', '<p>Begin here.</p>')
    const token = await invite(ids.siteId, ada, { gives: 'copy', label: 'Class 4', days: 1 })
    const pupils = [await newAccount(), await newAccount()]
    const copies = await Promise.all(pupils.map((who) => takeInvitation(token, who)))
    expect(await takeInvitation(token, pupils[0]!)).toBe(copies[0])
    expect(new Set([...copies, ids.siteId]).size).toBe(3)
    const copy = await siteOf(copies[0]!, pupils[0]!)
    const { id: _, ...original } = await now()
    expect({ ...copy, id: undefined }).toEqual({ ...original, id: undefined })
    // Read by whoever handed it out, and by nobody else of the first site.
    expect((await siteOf(copies[0]!, ada)).id).toBe(copies[0])
    await expect(siteOf(copies[0]!, ids.accountId)).rejects.toThrow()
    await expect(siteOf(copies[0]!, pupils[1]!)).rejects.toThrow()
    const change = () => label('Mine', copy.pages[1]!)
    await expect(changeSite(copies[0]!, ada, 0, change)).rejects.toMatchObject({ code: 'no-right' })
    await changeSite(copies[0]!, pupils[0]!, 0, change)
    const seen = await listHandedOut(pool(), ids.siteId, ada)
    expect(
      seen.map(({ siteId, writtenCount, pageCount }) => [siteId, writtenCount, pageCount]).sort(),
    ).toEqual(
      [[copies[0], 1, 4], [copies[1], 0, 4]].sort(), // prettier-ignore
    )
    expect(await listHandedOut(pool(), ids.siteId, ids.accountId)).toEqual([])
    // Whose it is and what it came from is told to whoever may look at both, and is not the owner.
    expect(await copyOf(pool(), copies[0]!, ada)).toMatchObject({ fromId: ids.siteId })
    const others = [pupils[0]!, pupils[1]!, ids.accountId]
    expect(await Promise.all(others.map((who) => copyOf(pool(), copies[0]!, who)))).toEqual([
      null,
      null,
      null,
    ])
  })
})

describe('who takes part', () => {
  test('does what the role allows, and nothing more', async () => {
    await begin()
    const visit = await page('Visit')
    const reader = await newAccount()
    await takeInvitation(await invite(ids.siteId, ada, { gives: 'writer', label: '', days: 1 }), reader)
    await changeRole(ids.siteId, reader, 'reader')
    await expect(make(reader, label('X', visit))).rejects.toMatchObject({ code: 'no-right' })
    expect((await catchUp(ids.siteId, reader, 0)).diffs).toEqual([])
    await make(ben, label('Visiting', visit))
    const { scheme } = await now()
    const scheming: Change = { kind: 'setScheme', scheme: { ...scheme, gap: '_' }, was: scheme }
    await expect(make(ben, scheming)).rejects.toMatchObject({ code: 'no-right' })
    const style = (await now()).files.find(({ kind }) => kind === 'style')!
    const hash = await putBlob(pool(), 'p { color: red }')
    const styling: Change = { kind: 'setFile', fileId: style.id, hash, sizeBytes: 16, was: style.hash }
    await expect(make(ben, styling)).rejects.toMatchObject({ code: 'no-right' })
    await make(ada, styling)
    await make(ada, scheming)
    await expect(deleteSite(pool(), ids.siteId, ada)).rejects.toMatchObject({ code: 'no-right' })
    expect((await listSites(pool(), ben)).map(({ id, role }) => [id, role])).toEqual([[ids.siteId, 'writer']])
    await removePerson(ids.siteId, ben)
    expect(await listSites(pool(), ben)).toEqual([])
    await expect(make(ben, label('Y', await page('Terns')))).rejects.toMatchObject({ status: 404 })
    // What they wrote stays.
    expect(await page('Visiting')).toBeDefined()
  })
})

describe('undo among several people', () => {
  test('takes back one’s own, whatever others did since', async () => {
    await begin()
    await make(ada, label('Visiting', await page('Visit')))
    await make(ben, label('Seabirds', await page('Terns')))
    const offered = await catchUp(ids.siteId, ada, 0)
    expect(offered.undo).toContain('Visit')
    expect((await catchUp(ids.siteId, ids.accountId, 0)).undo).toBeNull()
    const after = await step(ada)
    expect(after).toMatchObject({ undo: null })
    expect((await now()).pages.map((one) => one.label)).toEqual(['Home', 'Visit', 'Seabirds', 'Contact'])
    // Somebody else's change takes no redo away.
    await make(ben, label('Write to us', await page('Contact')))
    await step(ada, 'redo')
    expect((await now()).pages.map((one) => one.label)).toEqual([
      'Home',
      'Visiting',
      'Seabirds',
      'Write to us',
    ])
  })

  test('merges a text that both wrote in, and is refused where one would be lost', async () => {
    await begin()
    await write(ids.accountId, 'Visit', '<p>one</p>\n<p>two</p>\n<p>three</p>\n')
    await write(ada, 'Visit', '<p>one, Ada</p>\n<p>two</p>\n<p>three</p>\n')
    await write(ben, 'Visit', '<p>one, Ada</p>\n<p>two</p>\n<p>three, Ben</p>\n')
    await step(ada)
    expect(await textOf('Visit')).toBe('<p>one</p>\n<p>two</p>\n<p>three, Ben</p>\n')
    await step(ada, 'redo')
    expect(await textOf('Visit')).toBe('<p>one, Ada</p>\n<p>two</p>\n<p>three, Ben</p>\n')
    await write(ben, 'Visit', '<p>one, Ada and Ben</p>\n<p>two</p>\n<p>three, Ben</p>\n')
    await expect(step(ada)).rejects.toMatchObject({ code: 'cannot-step' })
    expect(await textOf('Visit')).toContain('Ada and Ben')
  })

  test('lets references that others wrote meanwhile follow', async () => {
    await begin()
    await write(ben, 'Contact', '<p><a href="/terns.html">Terns</a></p>')
    await make(ada, label('Seabirds', await page('Terns')))
    expect(await textOf('Contact')).toContain('href="/seabirds.html"')
    // One text that the rename wrote in and Ben went on with, and one that is Ben's alone.
    await write(ben, 'Contact', '<p><a href="/seabirds.html">Terns</a></p>\n<p>More.</p>')
    await write(ben, 'Visit', '<p><a href="/seabirds.html#nests">nests</a></p>')
    await step(ada)
    expect(await textOf('Contact')).toBe('<p><a href="/terns.html">Terns</a></p>\n<p>More.</p>')
    expect(await textOf('Visit')).toBe('<p><a href="/terns.html#nests">nests</a></p>')
  })

  test('does not take away what somebody else has put something under', async () => {
    await begin()
    const [parent, child] = [randomUUID(), randomUUID()]
    const content = await putBlob(pool(), '')
    const add = (id: string, parentId: string | null): Change => ({
      kind: 'addPages',
      parentId,
      after: null,
      pages: [{ id, label: `Page ${id}` }],
      content,
    })
    await make(ada, add(parent, null))
    await make(ben, add(child, parent))
    const before: Site = await now()
    await expect(step(ada)).rejects.toMatchObject({ code: 'cannot-step' })
    expect(await now()).toEqual(before)
    await step(ben)
    await step(ada)
    expect((await now()).pages).toHaveLength(4)
  })
})
