import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { compareFolder, type ListedFile, type ManifestFile, type RecordedFile, settleFolder } from './index'

const made = (path: string, hash: string, sizeBytes = 5): ManifestFile => ({
  path,
  hash,
  sizeBytes,
  kind: 'page',
  isHome: false,
})
const put = (path: string, hash: string, modifiedSeconds = 100, sizeBytes = 5): RecordedFile => ({
  path,
  hash,
  sizeBytes,
  modifiedSeconds,
})
const there = (path: string, modifiedSeconds = 100, sizeBytes = 5): ListedFile => ({ path, sizeBytes, modifiedSeconds }) // prettier-ignore

test('what was put there and left alone is known without being read; of the rest what has the right size is read', () => {
  const compared = compareFolder(
    [made('same', 'a'), made('new', 'a'), made('changed', 'b'), made('edited', 'a'), made('longer', 'a'), made('theirs', 'a'), made('other', 'a')],
    [put('same', 'a'), put('changed', 'a'), put('edited', 'a'), put('longer', 'a'), put('gone', 'a'), put('kept', 'a')],
    [there('same'), there('changed'), there('edited', 200), there('longer', 200, 9), there('theirs'), there('other', 100, 9), there('gone'), there('kept', 200), there('stray')],
    {},
  )
  expect([...compared.unread.keys()]).toEqual(['edited', 'theirs'])
  expect(compared.leftovers.map(({ path, state }) => [path, state])).toEqual([
    ['gone', 'to remove'],
    ['kept', 'stray'],
    ['stray', 'stray'],
  ])
  const settled = settleFolder(compared, new Map([['edited', 'x'], ['theirs', 'a']]))
  expect(settled.files.map(({ path, state }) => [path, state])).toEqual([
    ['same', 'same'],
    ['new', 'new'],
    ['changed', 'changed'],
    ['edited', 'changed there'],
    ['longer', 'changed there'],
    ['theirs', 'same'],
    ['other', 'other there'],
  ])
}) // prettier-ignore

test('a name in other letters is written anew where both would be one file', () => {
  const args = [[made('about.html', 'a')], [], [there('About.html')]] as const
  const compared = compareFolder(...args, { tellsCase: false })
  expect([...compared.unread]).toEqual([['about.html', 'About.html']])
  expect([...compared.misspelled]).toEqual([['about.html', 'About.html']])
  expect(settleFolder(compared, new Map([['about.html', 'a']])).files[0]!.state).toBe('changed')
  const apart = compareFolder(...args, {})
  expect([apart.files[0]!.state, apart.leftovers[0]!.state]).toEqual(['new', 'stray'])
})

test('whatever stands there: once it is read, what is said to be the same is, and nothing that somebody changed may be removed', () => {
  const path = fc.constantFrom('a', 'b', 'A', 'c/d')
  const content = fc.constantFrom('x', 'y', 'zz')
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.tuple(path, content), { selector: ([one]) => one.toLowerCase() }),
      fc.uniqueArray(fc.tuple(path, content), { selector: ([one]) => one.toLowerCase() }),
      fc.uniqueArray(fc.tuple(path, content, fc.boolean()), { selector: ([one]) => one.toLowerCase() }),
      fc.boolean(),
      (site, recorded, found, tellsCase) => {
        // What nobody has touched is what was put there.
        const record = new Map<string, string>(recorded)
        const real = found.map(([one, text, isOurs]) => {
          const ours = isOurs ? record.get(one) : undefined
          return { path: one, text: ours ?? text, modifiedSeconds: ours === undefined ? 2 : 1 }
        })
        const contents = new Map<string, string>(real.map((one) => [one.path, one.text]))
        const compared = compareFolder(
          site.map(([one, text]) => made(one, text, text.length)),
          recorded.map(([one, text]) => put(one, text, 1, text.length)),
          real.map((one) => there(one.path, one.modifiedSeconds, one.text.length)),
          { tellsCase },
        )
        const hashes = new Map([...compared.unread].map(([own, at]) => [own, contents.get(at)!]))
        const { files, leftovers } = settleFolder(compared, hashes)
        for (const file of files) expect(file.state === 'same').toBe(contents.get(file.path) === file.hash)
        for (const { path: one, state } of leftovers)
          if (state === 'to remove') expect(real.find((its) => its.path === one)!.modifiedSeconds).toBe(1)
      },
    ),
    { numRuns: 2_000 },
  )
})
