import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals'
import type { Site } from '#core/site'
import { siteFrom, TextStore } from '#core/testing'
import type { ChangeRequest } from '#core/change'
import { KeptWork } from './kept-work'
import type { SiteStore } from './site-store'
import { WrittenTexts } from './written-texts'

/** A store whose server takes a text where nobody wrote meanwhile. */
class FakeStore {
  readonly sent: string[] = []
  readonly unsaved = new Set<string>()
  answer: Promise<void> = Promise.resolve()
  takes = true
  constructor(public site: Site) {}

  get = () => ({ site: this.site })
  dismiss = () => {}
  noteUnsaved = (name: string, is: boolean) => void (is ? this.unsaved.add(name) : this.unsaved.delete(name))
  /** Another window, or this one, writes. */
  put = (id: string, content: string) => {
    this.site = {
      ...this.site,
      pages: this.site.pages.map((page) => (page.id === id ? { ...page, content } : page)),
    }
  }
  change = (request: ChangeRequest) => {
    if (request.kind !== 'setContent') throw new Error(request.kind)
    this.sent.push(request.text)
    const saved = this.answer.then(() => {
      const now = this.site.pages.find((page) => page.id === request.pageId)!.content
      if (!this.takes || now !== request.was) return false
      this.put(request.pageId, `hash of ${request.text}`)
      return true
    })
    return { saved }
  }
}

const storage = () => {
  const map = new Map<string, string>()
  return {
    map,
    get length() {
      return map.size
    },
    key: (index: number) => [...map.keys()][index] ?? null,
    getItem: (key: string) => map.get(key) ?? null,
    setItem: (key: string, value: string) => void map.set(key, value),
    removeItem: (key: string) => void map.delete(key),
  }
}
/** Locks as browsers have them, each held until its window is closed. */
const lockManager = () => {
  const held = new Set<string>()
  return {
    held,
    request: async (name: string, options: unknown, work?: (lock: unknown) => unknown) => {
      if (typeof options === 'function') {
        held.add(name)
        return
      }
      return work!(held.has(name) ? null : {})
    },
  }
}

let store: FakeStore
let texts: WrittenTexts
let key: { kind: 'content'; id: string }
let first: string
let begun: string
let textOf: (hash: string) => Promise<string>
beforeEach(() => {
  jest.useFakeTimers()
  store = new FakeStore(siteFrom('Home\n  Visit', new TextStore()))
  // As the fake server names what it keeps; what was there at first is empty.
  textOf = async (hash) => (hash === first ? begun : hash.replace(/^hash of /, ''))
  begun = ''
  texts = new WrittenTexts(store as unknown as SiteStore, null, (hash) => textOf(hash))
  const page = store.site.pages[1]!
  key = { kind: 'content', id: page.id }
  first = page.content
})
afterEach(() => void jest.useRealTimers())

describe('a text being written', () => {
  test('is sent after a pause, and counts as not saved until then', async () => {
    texts.write(key, 'a', first)
    expect(store.unsaved.size).toBe(1)
    await jest.advanceTimersByTimeAsync(600)
    expect(store.sent).toEqual(['a'])
    expect(texts.get(key)).toBeNull()
    expect(store.unsaved.size).toBe(0)
  })

  test('is sent every two seconds when there is no pause at all', async () => {
    for (let letter = 1; letter <= 100; letter++) {
      texts.write(key, 'x'.repeat(letter), texts.hashOf(key)!)
      await jest.advanceTimersByTimeAsync(100)
    }
    expect(store.sent.length).toBeGreaterThanOrEqual(4)
    await jest.advanceTimersByTimeAsync(2_000)
    expect(store.sent.at(-1)).toHaveLength(100)
  })

  test('goes on from what was taken while letters were added', async () => {
    let arrive = () => {}
    store.answer = new Promise((resolve) => (arrive = resolve))
    texts.write(key, 'a', first)
    await jest.advanceTimersByTimeAsync(600)
    texts.write(key, 'ab', first)
    arrive()
    await jest.advanceTimersByTimeAsync(600)
    expect(store.sent).toEqual(['a', 'ab'])
    expect(texts.get(key)).toBeNull()
  })

  test('that another window wrote too stays until its author decides, whatever is shown', async () => {
    store.put(key.id, 'theirs')
    texts.write(key, 'mine', first)
    await jest.advanceTimersByTimeAsync(600)
    expect(texts.get(key)).toMatchObject({ text: 'mine', state: 'conflict' })
    texts.write(key, 'mine too', first)
    await jest.advanceTimersByTimeAsync(5_000)
    expect(store.sent).toEqual(['mine'])
    texts.useMine(key)
    await jest.advanceTimersByTimeAsync(10)
    expect(store.sent).toEqual(['mine', 'mine too'])
    expect(texts.get(key)).toBeNull()
  })

  test('is put together with what somebody else wrote elsewhere in it, typing included, and sent', async () => {
    begun = '<p>one</p>\n<p>two</p>\n'
    store.put(key.id, '<p>one, theirs</p>\n<p>two</p>\n')
    texts.write(key, '<p>one</p>\n<p>two, mi</p>\n', first)
    const read = textOf
    // Letters are typed while the two texts are fetched.
    textOf = async (hash) => {
      if (texts.get(key)?.text.includes('mi<')) texts.write(key, '<p>one</p>\n<p>two, mine</p>\n', first)
      return read(hash)
    }
    await jest.advanceTimersByTimeAsync(2_000)
    expect(store.sent.at(-1)).toBe('<p>one, theirs</p>\n<p>two, mine</p>\n')
    expect(texts.get(key)).toBeNull()
  })

  test('stays with its author when the other one cannot be fetched', async () => {
    textOf = () => Promise.reject(new Error('no connection'))
    store.put(key.id, 'theirs')
    texts.write(key, 'mine', first)
    await jest.advanceTimersByTimeAsync(2_000)
    expect(texts.get(key)).toMatchObject({ text: 'mine', state: 'conflict' })
  })

  test('that the server does not take is kept, and asked for again with the next letter', async () => {
    store.takes = false
    texts.write(key, 'a', first)
    await jest.advanceTimersByTimeAsync(600)
    expect(texts.get(key)).toMatchObject({ text: 'a', state: 'refused' })
    store.takes = true
    texts.write(key, 'ab', first)
    await jest.advanceTimersByTimeAsync(600)
    expect(texts.get(key)).toBeNull()
  })

  test('is let go for the other one when asked', async () => {
    store.put(key.id, 'theirs')
    texts.write(key, 'mine', first)
    await jest.advanceTimersByTimeAsync(600)
    texts.takeTheirs(key)
    expect(texts.get(key)).toBeNull()
    expect(store.unsaved.size).toBe(0)
  })
})

describe('what a window leaves behind', () => {
  const adopted = async (kept: KeptWork) => {
    const found: [string, unknown][] = []
    await kept.adopt((name, value) => found.push([name, value]))
    return found
  }

  test('is taken up by the next one, once, and only when it is gone', async () => {
    const [disk, locks] = [storage(), lockManager()]
    const gone = new KeptWork(disk, locks as never, 'author', 'site')
    gone.put('text content x', { text: 'typed' })
    new KeptWork(disk, locks as never, 'author', 'other site').put('text content y', 1)
    new KeptWork(disk, locks as never, 'another', 'site').put('text content z', 1)
    const next = new KeptWork(disk, locks as never, 'author', 'site')
    expect(await adopted(next)).toEqual([])
    locks.held.clear()
    expect(await adopted(next)).toEqual([['text content x', { text: 'typed' }]])
    expect(await adopted(next)).toEqual([])
  })

  test('goes on as a text: sent where nobody wrote, shown as a conflict otherwise', async () => {
    texts.adopt({ key, text: 'typed', was: first })
    await jest.advanceTimersByTimeAsync(10)
    expect(store.sent).toEqual(['typed'])
    texts.adopt({ key, text: 'older', was: first })
    expect(texts.get(key)).toMatchObject({ text: 'older', state: 'conflict' })
  })

  test('is told as not kept where there is no room', () => {
    const full = { ...storage(), setItem: () => { throw new Error('full') } } // prettier-ignore
    expect(new KeptWork(full, null, 'author', 'site').put('text', 'x')).toBe(false)
  })
})
