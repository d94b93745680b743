import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals'
import { edit } from '#core/change'
import { diffSites, type Site } from '#core/site'
import { pageCalled, siteFrom, TextStore } from '#core/testing'
import type { ChangeRequest } from '#core/change'
import { SiteStore } from './site-store'

/** A server of one site in memory, which can be away, and can be changed by another window. */
class FakeServer {
  revision = 0
  away: 'no' | 'silent' | 'full' | 'too much' | 'signed out' = 'no'
  /** Whether it wants every change to have been shown first. */
  asksFirst = false
  /** The next answer is lost on the way. */
  losesAnswer = false
  readonly made = new Set<string>()
  readonly #diffs: ReturnType<typeof diffSites>[] = []
  constructor(public site: Site) {}

  apply(change: ChangeRequest): { refusal: { reason: string; message: string; now?: string | null } } | null {
    const edited = edit(this.site, change as Parameters<typeof edit>[1])
    if ('refusal' in edited) return edited
    this.#diffs.push(diffSites(this.site, edited.site))
    this.site = edited.site
    this.revision += 1
    return null
  }

  readonly fetch = (async (url: string, init?: { body?: string }) => {
    if (this.away === 'silent') throw new TypeError('no connection')
    const json = (body: unknown, status = 200) => {
      const text = JSON.stringify(body)
      const response = new Response(text, { status, headers: { 'content-type': 'application/json' } })
      // Parsed in the tests' own realm: an array from outside it equals none within.
      return Object.assign(response, { json: async () => JSON.parse(text) as unknown })
    }
    if (this.away === 'too much')
      return new Response('This is more than can be taken at once.', { status: 413 })
    if (this.away === 'signed out')
      return json({ problem: { code: 'signed-out', message: 'You are signed out.' } }, 401)
    if (this.away === 'full')
      return json({ problem: { code: 'disk-full', message: 'The disk is full.' } }, 503)
    const { id, seen, change, shown } = init?.body
      ? (JSON.parse(init.body) as { id: string; seen: number; change: ChangeRequest | null; shown: boolean })
      : { id: '', seen: Number(url.split('=')[1]), change: null, shown: true }
    if (this.asksFirst && !shown)
      return json({ problem: { code: 'ask-first', message: '', detail: { ripple } } }, 409)
    const isNew = !this.made.has(id)
    const refused = change && isNew && this.apply(change)
    if (refused) {
      const { reason, message, now } = refused.refusal
      return json({ problem: { code: reason, message, detail: { now } } }, 409)
    }
    if (id !== '') this.made.add(id)
    if (this.losesAnswer) {
      this.losesAnswer = false
      throw new TypeError('cut')
    }
    return json({
      revision: this.revision,
      diffs: this.#diffs.slice(seen),
      undo: null,
      redo: null,
      ripple: null,
      savedAt: '',
    })
  }) as unknown as typeof fetch
}

const ripple = { linkCount: 3 }
/** Until the fake server has answered. */
const settled = () => new Promise((resolve) => setTimeout(resolve, 5))
const kept = () => {
  const map = new Map<string, string>()
  return {
    map,
    put: (name: string, value: unknown) => (map.set(name, JSON.stringify(value)), true),
    remove: (name: string) => void map.delete(name),
    /** As the next window does. */
    adoptInto: (store: SiteStore) => {
      for (const [name, text] of map) store.adopt(name, JSON.parse(text))
    },
  }
}
const rename = (site: Site, from: string, to: string): ChangeRequest => ({
  kind: 'setPageText',
  pageId: pageCalled(site, from).id,
  field: 'label',
  value: to,
  was: from,
})
const savedOf = (made: ReturnType<SiteStore['change']>) =>
  'saved' in made ? made.saved : Promise.reject(new Error('refused'))

let server: FakeServer
let store: SiteStore
const realFetch = globalThis.fetch
beforeEach(() => {
  const site = siteFrom('Home\n  Visit\n  Contact', new TextStore())
  server = new FakeServer(site)
  globalThis.fetch = server.fetch
  store = new SiteStore(site, 0, { undo: null, redo: null }, kept())
})
afterEach(() => {
  globalThis.fetch = realFetch
  jest.useRealTimers()
})

describe('a window’s copy of a site', () => {
  test('shows a change at once, and agrees with the server once it is saved', async () => {
    const saved = savedOf(store.change(rename(server.site, 'Visit', 'Come')))
    expect(pageCalled(store.get().site, 'Come')).toBeDefined()
    expect(store.get().save.kind).toBe('saving')
    expect(await saved).toBe(true)
    expect(store.get()).toMatchObject({ revision: 1, site: server.site })
  })

  test('takes in what another window did, its own waiting changes on top', async () => {
    server.apply(rename(server.site, 'Contact', 'Write'))
    await savedOf(store.change(rename(server.site, 'Visit', 'Come')))
    expect(
      store
        .get()
        .site.pages.map((page) => page.label)
        .sort(),
    ).toEqual(['Come', 'Home', 'Write'])
  })

  test('is told what the other one did to the same field, and keeps what was typed', async () => {
    const typed = rename(server.site, 'Visit', 'Come')
    server.apply(rename(server.site, 'Visit', 'Arrive'))
    expect(await savedOf(store.change(typed))).toBe(false)
    expect(store.get().refused).toMatchObject({ change: typed, now: 'Arrive' })
    expect(pageCalled(store.get().site, 'Arrive')).toBeDefined()
  })

  describe('when a change reaches further than it seems', () => {
    let saved: Promise<boolean>
    beforeEach(async () => {
      server.asksFirst = true
      saved = savedOf(store.change(rename(server.site, 'Visit', 'Come')))
      await settled()
    })
    const labels = () => store.get().site.pages.map((page) => page.label)

    test('it shows, and is stored only after the answer', async () => {
      expect(store.get().asked).toMatchObject({ ripple, isShown: true })
      expect(labels()).toContain('Come')
      expect(server.revision).toBe(0)
      expect(store.hasWaiting).toBe(true)
      store.answer(true)
      expect(await saved).toBe(true)
      expect(pageCalled(server.site, 'Come')).toBeDefined()
      expect(store.get()).toMatchObject({ asked: null, site: server.site })
    })

    test.each([
      ['the answer is no', () => store.answer(false)],
      ['it is undone', () => void store.undo()],
    ])('all is as it was when %s', async (_, decline) => {
      decline()
      expect(await saved).toBe(false)
      expect(labels()).toContain('Visit')
      expect(server.revision).toBe(0)
    })

    test('other changes go on meanwhile, and stay', async () => {
      await savedOf(store.change(rename(server.site, 'Contact', 'Write'), true))
      expect(labels().sort()).toEqual(['Come', 'Home', 'Write'])
      store.answer(false)
      expect(await saved).toBe(false)
      expect(labels().sort()).toEqual(['Home', 'Visit', 'Write'])
    })

    test('what is asked about outlives a reload, and is asked again', async () => {
      const storage = kept()
      const first = new SiteStore(server.site, 0, { undo: null, redo: null }, storage)
      first.change(rename(server.site, 'Visit', 'Come'))
      await settled()
      const second = new SiteStore(server.site, 0, { undo: null, redo: null }, storage)
      storage.adoptInto(second)
      await settled()
      expect(second.get().asked).toMatchObject({ change: { value: 'Come' }, isShown: true })
    })
  })

  test('a change asked about beforehand does not show until it is made', async () => {
    const { id } = pageCalled(server.site, 'Visit')
    store.ask({ kind: 'removePages', pageIds: [id] })
    expect(store.get()).toMatchObject({ asked: { isShown: false }, site: server.site })
    store.answer(true)
    expect(store.get().site.pages).toHaveLength(2)
    await settled()
    expect(server.site.pages).toHaveLength(2)
  })

  test('what cannot be made is refused, not asked about; what is asked twice is asked once', async () => {
    store.ask({ kind: 'removePages', pageIds: [server.site.homeId] })
    expect(store.get()).toMatchObject({ asked: null, refused: { message: 'A site needs its home page.' } })
    const { id } = pageCalled(server.site, 'Visit')
    store.ask({ kind: 'removePages', pageIds: [id] })
    store.ask({ kind: 'removePages', pageIds: [id] })
    store.answer(false)
    expect(store.get().asked).toBeNull()
  })

  test.each(['silent', 'full'] as const)(
    'keeps a change while the server is away (%s), and sends it when it is back',
    async (how) => {
      jest.useFakeTimers()
      server.away = how
      const saved = savedOf(store.change(rename(server.site, 'Visit', 'Come')))
      await jest.advanceTimersByTimeAsync(100)
      expect(store.get().save).toEqual({
        kind: 'offline',
        waiting: 1,
        reason: how === 'full' ? 'The disk is full.' : null,
      })
      server.away = 'no'
      await jest.advanceTimersByTimeAsync(2_000)
      expect(await saved).toBe(true)
      expect(pageCalled(server.site, 'Come')).toBeDefined()
    },
  )

  test('a window that was closed before it could save goes on in the next one', async () => {
    jest.useFakeTimers()
    const storage = kept()
    const first = new SiteStore(server.site, 0, { undo: null, redo: null }, storage)
    server.away = 'silent'
    first.change(rename(server.site, 'Visit', 'Come'))
    await jest.advanceTimersByTimeAsync(10)
    expect(storage.map.size).toBe(1)
    server.away = 'no'
    const second = new SiteStore(server.site, 0, { undo: null, redo: null }, storage)
    storage.adoptInto(second)
    await jest.advanceTimersByTimeAsync(10)
    expect(pageCalled(server.site, 'Come')).toBeDefined()
    expect(storage.map.size).toBe(0)
  })

  test('a change whose answer was lost is asked for again under its id, and made once', async () => {
    jest.useFakeTimers()
    server.losesAnswer = true
    const id = crypto.randomUUID()
    const pages = [{ id, label: 'News' }]
    const saved = savedOf(store.change({ kind: 'addPages', parentId: null, after: null, pages }))
    await jest.advanceTimersByTimeAsync(1_000)
    expect(await saved).toBe(true)
    expect(server.revision).toBe(1)
    expect(server.made.size).toBe(1)
  })

  test('what is refused before it is looked at is told, and not asked for again and again', async () => {
    server.away = 'too much'
    expect(await savedOf(store.change(rename(server.site, 'Visit', 'Come')))).toBe(false)
    expect(store.get().refused).toMatchObject({ message: 'This is more than can be taken at once.' })
    expect(pageCalled(store.get().site, 'Visit')).toBeDefined()
  })

  test('what is done while nobody is signed in waits, and is not refused', async () => {
    server.away = 'signed out'
    const saved = savedOf(store.change(rename(server.site, 'Visit', 'Come')))
    await settled()
    expect(store.get()).toMatchObject({
      save: { kind: 'offline', reason: 'You are signed out.' },
      refused: null,
    })
    expect(pageCalled(store.get().site, 'Come')).toBeDefined()
    server.away = 'no'
    store.wake()
    expect(await saved).toBe(true)
  })

  test('sends at once when the connection is back, without waiting for its pause', async () => {
    jest.useFakeTimers()
    server.away = 'silent'
    store.change(rename(server.site, 'Visit', 'Come'))
    await jest.advanceTimersByTimeAsync(20_000)
    server.away = 'no'
    store.wake()
    await jest.advanceTimersByTimeAsync(1)
    expect(pageCalled(server.site, 'Come')).toBeDefined()
  })

  test('what happened before it catches up is known afterwards, also while it is sending', async () => {
    let answer = () => {}
    globalThis.fetch = (async (...asked: Parameters<typeof fetch>) => {
      const response = await server.fetch(...asked)
      // Its answer to the change tells nothing of what another window does before that comes back.
      if (asked[1]) await new Promise<void>((resolve) => (answer = resolve))
      return response
    }) as typeof fetch
    const saved = savedOf(store.change(rename(server.site, 'Visit', 'Come')))
    await settled()
    server.apply(rename(server.site, 'Contact', 'Write'))
    const caughtUp = store.catchUp()
    await settled()
    answer()
    await caughtUp
    expect(pageCalled(store.get().site, 'Write')).toBeDefined()
    expect(await saved).toBe(true)
    expect(store.get()).toMatchObject({ revision: 2, site: server.site })
  })

  test('what it hears of while it is sending is fetched afterwards', async () => {
    const saved = savedOf(store.change(rename(server.site, 'Visit', 'Come')))
    await store.heard(2)
    server.apply(rename(server.site, 'Contact', 'Write'))
    await saved
    await settled()
    expect(pageCalled(store.get().site, 'Write')).toBeDefined()
  })

  describe('a line being typed', () => {
    const typed = () => rename(server.site, 'Visit', 'Come')

    test('counts as not saved, and is made when the window goes', async () => {
      const storage = kept()
      const window = new SiteStore(server.site, 0, { undo: null, redo: null }, storage)
      window.noteLine('label', typed())
      expect(window.get().save.kind).toBe('typing')
      expect(storage.map.size).toBe(1)
      window.leave()
      await settled()
      expect(pageCalled(server.site, 'Come')).toBeDefined()
      expect(storage.map.size).toBe(0)
    })

    test('is made by the next window when this one was ended without a word', async () => {
      const storage = kept()
      new SiteStore(server.site, 0, { undo: null, redo: null }, storage).noteLine('label', typed())
      const next = new SiteStore(server.site, 0, { undo: null, redo: null }, null)
      storage.adoptInto(next)
      await settled()
      expect(pageCalled(server.site, 'Come')).toBeDefined()
    })

    test('leaves nothing behind when it is given up', () => {
      const storage = kept()
      const window = new SiteStore(server.site, 0, { undo: null, redo: null }, storage)
      window.noteLine('label', typed())
      window.noteLine('label', null)
      expect([storage.map.size, window.get().save.kind]).toEqual([0, 'saved'])
    })
  })
})
