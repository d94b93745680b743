import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals'
import type { Piscina } from 'piscina'
import type { Change } from '#core/change'
import { checkSite, type Role } from '#core/site'
import { dictionariesFor, dictionaryNames } from '#core/spelling'
import { pageCalled } from '#core/testing'
import { getTexts, putBlob } from '../../contents/blobs'
import { pool } from '../../platform/pool'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../../testing/support'
import { changeSite } from '../changes/changes'
import { stepHistory } from '../changes/step-history'
import { loadSite } from '../rows/site-rows'
import { dictionaryCalled } from './dictionaries'
import { spellingOf } from './look'
import { mendWord } from './mend'
import { endSpellers, lookAtTexts, nearWords, spellingLimits } from './threads'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(async () => {
  await endSpellers()
  await database.close()
})
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Tides\n  Visit')
})
const never = new AbortController().signal
const site = () => siteOf(ids.siteId, ids.accountId)
const look = async () => spellingOf(await site(), never, () => {})
const words = async () => (await look()).words.map(({ word, count, ownerCount }) => [word, count, ownerCount])
const write = (label: string, html: string) => writePage(ids.siteId, ids.accountId, label, html)
const change = (what: Change) => changeSite(ids.siteId, ids.accountId, 0, () => what)
const textOf = async (label: string) => {
  const { content } = pageCalled(await site(), label)
  return (await getTexts(pool(), [content])).get(content)
}
const mend = async (word: string, by: string, role: Role = 'owner') => {
  const { site, revision } = (await loadSite(pool(), ids.siteId, ids.accountId))!
  const asked = { word, language: 'en', by, seen: revision, shown: false, requestId: randomUUID() }
  return mendWord({ site, revision, role }, ids.accountId, asked, never)
}

test('every dictionary that ships can be read, has words of its language, and none that is mistyped', () => {
  const said: Record<string, [string, string]> = {
    'en-GB': ['harbour', 'harbuor'],
    'en-US': ['color', 'colour'],
    da: ['fyrtårn', 'fyrtårm'],
    de: ['Leuchtturm', 'Leuchttrum'],
    es: ['horarios', 'horrarios'],
    fr: ['phare', 'phaare'],
    nl: ['openingstijden', 'openingstijdn'],
    pl: ['latarnia', 'latrania'],
    'pt-PT': ['farol', 'farrol'],
  }
  expect(Object.keys(said)).toEqual([...dictionaryNames])
  for (const name of dictionaryNames) {
    const [right, wrong] = said[name]!
    const dictionary = dictionaryCalled(name)
    expect([name, dictionary.has(right), dictionary.has(wrong)]).toEqual([name, true, false])
    expect(dictionariesFor(name)).toContain(name)
  }
})

test('what pages, labels and templates say is held against dictionaries, in the language of each', async () => {
  await write('Visit', '<p>The ligthouse is opne.\nSee the ligthouse.</p>')
  await write('Tides', '<p>Opne, opne</p><p lang="de">Der Leuchttrum</p><p lang="it">la luce</p>')
  const now = await site()
  await change({
    kind: 'setPageText',
    pageId: pageCalled(now, 'Home').id,
    field: 'description',
    value: 'A ligthouse',
    was: null,
  })
  const { words, wordCount, without, tooHeavy } = await look()
  expect(words.map(({ word, language, count, ownerCount }) => [word, language, count, ownerCount])).toEqual([
    ['ligthouse', 'en', 3, 2],
    ['opne', 'en', 2, 2],
    ['Leuchttrum', 'de', 1, 1],
    ['Opne', 'en', 1, 1],
  ])
  expect(wordCount).toBe(4)
  expect(words[0]!.first).toMatchObject({
    owner: { kind: 'page', field: 'description' },
    line: 1,
    before: 'A ',
  })
  expect(words[2]!.first).toMatchObject({ line: 1, before: 'Der ', after: '' })
  expect(without).toEqual([{ language: 'it', ownerCount: 1 }])
  expect(tooHeavy).toEqual([])
  expect(await nearWords('ligthouse', 'en', never)).toContain('lighthouse')
  expect(await nearWords('ligthouse', 'it', never)).toEqual([])
})

test('a page in another language is held against that', async () => {
  await write('Visit', '<p>Der Leuchtturm ist offen</p>')
  expect((await words()).length).toBeGreaterThan(1)
  const { id } = pageCalled(await site(), 'Visit')
  await change({ kind: 'setPageText', pageId: id, field: 'language', value: 'de', was: null })
  // Its label is in that language, too.
  expect(await words()).toEqual([['Visit', 1, 1]])
})

test('a template is held against the language of the pages that it makes, where they are all in one', async () => {
  const { id } = pageCalled(await site(), 'Visit')
  await change({ kind: 'setPageText', pageId: id, field: 'language', value: 'de', was: null })
  const put = (templateId: string, name: string, source: string, more: object) =>
    changeSite(ids.siteId, ids.accountId, 0, async (client) => ({ kind: 'addTemplate', templateId, name, source: await putBlob(client, source), basedOn: null, ...more }))
  const [base, own] = [randomUUID(), randomUUID()]
  await put(base, 'Base', '<!doctype html><title>{page}</title><p>Der Leuchtturm</p><slot name="inner"></slot>', {})
  await put(own, 'Own', '<template slot="inner"><p>Die Gezeiten</p><slot></slot></template>', { basedOn: base, forPages: [id] })
  expect((await look()).words.map(({ word, language }) => `${word} ${language}`)).toEqual(['Visit de'])
  await change({ kind: 'chooseTemplate', pageIds: [pageCalled(await site(), 'Tides').id], of: 'page', templateId: base })
  // Pages in two languages are made with it now: it is in that of the site.
  expect((await look()).words.map(({ word, language }) => `${word} ${language}`)).toEqual([ 'Leuchtturm en', 'Visit de'])
}) // prettier-ignore

test('words that the site keeps, and its name, are right; each is put in and taken back by itself', async () => {
  await write('Visit', '<p>The noust of Marrow; Brimwick, noustes</p>')
  await change({ kind: 'setSetting', field: 'name', value: 'Marrow Light', was: (await site()).name })
  expect(await words()).toEqual([
    ['noust', 1, 1],
    ['noustes', 1, 1],
    ['Brimwick', 1, 1],
  ])
  await change({ kind: 'keepWords', words: ['noust', 'Brimwick', 'noust'] })
  await change({ kind: 'keepWords', words: ['noustes'] })
  expect(await words()).toEqual([])
  expect((await site()).ownWords).toEqual(['noust', 'Brimwick', 'noustes'])
  await change({ kind: 'dropWords', words: ['noust'] })
  expect(await words()).toEqual([['noust', 1, 1]])
  for (const left of [['Brimwick', 'noustes', 'noust'], ['noust', 'Brimwick'], []]) {
    await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
    expect([...(await site()).ownWords].sort()).toEqual([...left].sort())
    expect(checkSite(await site())).toEqual([])
  }
})

test('undo takes back what one window kept, whatever another kept after it', async () => {
  const keep = (word: string, by: string) =>
    changeSite(ids.siteId, by, 0, () => ({ kind: 'keepWords', words: [word] }))
  await keep('noust', ids.accountId)
  const { revision } = (
    await pool().query<{ revision: number }>('SELECT revision FROM sites WHERE id = $1', [ids.siteId])
  ).rows[0]!
  // As another author's step, which the first one's undo passes over.
  await pool().query(
    'UPDATE sites SET own_words = array_append(own_words, $2), revision = revision + 1 WHERE id = $1',
    [ids.siteId, 'holm'],
  )
  expect(revision).toBeGreaterThan(0)
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  expect((await site()).ownWords).toEqual(['holm'])
})

test('a mistyped word is mended wherever it stands in its language, as one change; what is not one’s own to write stays', async () => {
  await write(
    'Visit',
    '<p>The ligthouse, Ligthouse; <b>ligthouse</b>s</p><p title="A ligthouse" class="ligthouse">x</p>',
  )
  await write('Tides', '<p>No ligthouse&nbsp;here</p>')
  await write('Home', '<p lang="de">Kein ligthouse</p>')
  const [template] = (await site()).templates
  const source = '<!doctype html><html lang="en"><title>{page}</title><p>A ligthouse</p><slot></slot>'
  await changeSite(
    ids.siteId,
    ids.accountId,
    0,
    async (client) =>
      ({
        kind: 'setTemplate',
        templateId: template!.id,
        source: await putBlob(client, source),
        was: template!.source,
      }) as Change,
  )
  await mend('ligthouse', 'lighthouse', 'writer')
  expect(await textOf('Visit')).toBe(
    '<p>The lighthouse, Ligthouse; <b>lighthouse</b>s</p><p title="A lighthouse" class="ligthouse">x</p>',
  )
  expect(await textOf('Tides')).toBe('<p>No lighthouse&nbsp;here</p>')
  expect(await textOf('Home')).toBe('<p lang="de">Kein ligthouse</p>')
  expect(checkSite(await site())).toEqual([])
  expect((await words()).filter(([word]) => word === 'ligthouse')).toEqual([
    ['ligthouse', 1, 1],
    ['ligthouse', 1, 1],
  ])
  await mend('ligthouse', 'lighthouse')
  expect(
    (await look()).words.filter(({ word }) => word === 'ligthouse').map(({ language }) => language),
  ).toEqual(['de'])
  await expect(mend('nowhere', 'anywhere')).rejects.toThrow('stands nowhere')
  await write('Visit', '<p>The the light, the\n the <i>opn</i>e</p>')
  await mend('The the', 'The')
  await mend('the the', 'the')
  expect(await textOf('Visit')).toBe('<p>The light, the <i>opn</i>e</p>')
  await expect(mend('opne', 'open')).rejects.toThrow('has tags within it')
  for (let step = 0; step < 3; step++) await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
  expect(await textOf('Tides')).toBe('<p>No ligthouse&nbsp;here</p>')
})

test('a text that takes too long is told, and the others are looked at; whoever hangs up is not waited for', async () => {
  const text = (text: string) => ({ text, is: 'html' as const, language: 'en' })
  const heavy = text('<p>the opne </p>'.repeat(200_000))
  await lookAtTexts([text('a')], never)
  const { deadlineMs } = spellingLimits
  spellingLimits.deadlineMs = 400
  try {
    const [first, second] = await lookAtTexts([heavy, text('opne')], never)
    expect(first).toBeNull()
    // It may have had to begin with its dictionaries again, for which there is more time than this test gives.
    spellingLimits.deadlineMs = deadlineMs
    expect(second ?? (await lookAtTexts([text('opne')], never))[0]).toMatchObject({
      unknown: [{ word: 'opne' }],
    })
  } finally {
    spellingLimits.deadlineMs = deadlineMs
  }
  const threadNow = () =>
    (globalThis as unknown as { rubricantSpellers: Piscina }).rubricantSpellers.threads[0]!.threadId
  const before = threadNow()
  await expect(lookAtTexts([heavy], AbortSignal.timeout(50))).rejects.toThrow()
  await lookAtTexts([text('a')], never)
  // It has its dictionaries still.
  expect(threadNow()).toBe(before)
  // Whoever waits for others loses none of their own time: one has ten times what it needs, and sixty are asked for at once.
  const some = text('<p>the opne light </p>'.repeat(6_000))
  await lookAtTexts([some], never)
  const begun = performance.now()
  await lookAtTexts([some], never)
  spellingLimits.deadlineMs = Math.ceil(10 * (performance.now() - begun))
  try {
    const all = await Promise.all(
      Array.from({ length: 60 }, () => lookAtTexts([some], new AbortController().signal)),
    )
    expect(all.filter(([one]) => one === null)).toEqual([])
  } finally {
    spellingLimits.deadlineMs = deadlineMs
  }
  const gone = new AbortController()
  gone.abort()
  await expect(spellingOf(await site(), gone.signal, () => {})).rejects.toThrow()
})
