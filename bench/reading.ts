// The texts of a site read for the first time, in the threads that do so for the application, and all rules over them;
// beside a parser that notes where everything stands and does nothing else with the same texts, in one thread.
import { findFindings } from '#core/findings'
import type { HtmlFacts } from '#core/markup'
import { resolveReference } from '#core/links'
import { namesOf } from '#core/naming'
import { homeFileOf } from '#core/template'
import { parseFragment } from 'parse5'
import { endReaders, readContent } from '../server/contents/reading'
import { threadsFrom } from '../server/platform/threads'
import { measure, ratio } from './measure'
import { largeSite } from './sites'

const pageCount = 1_200
const linkCount = 78
/** Texts read at a time, as the application does. */
const portion = 50

const { site, texts } = largeSite(pageCount, linkCount)
const all = [...texts.texts]
const megabytes = all.reduce((sum, [, text]) => sum + text.length, 0) / 1e6
console.log(
  `${pageCount} pages, ${pageCount * linkCount} references in their texts, ${megabytes.toFixed(0)} MB`,
)

const parse = await measure(
  'a bare parse with places',
  () => null,
  () => all.forEach(([, text]) => parseFragment(text, { sourceCodeLocationInfo: true })),
)

async function readAll(): Promise<ReadonlyMap<string, HtmlFacts>> {
  const facts = new Map<string, HtmlFacts>()
  for (let at = 0; at < all.length; at += portion)
    await Promise.all(
      all.slice(at, at + portion).map(async ([hash, text]) => facts.set(hash, await readContent(text))),
    )
  return facts
}
const read = await measure(
  'all that is ever asked of them read, in two threads',
  () => null,
  () => readAll(),
)
const fresh = () => ({ ...site, scheme: { ...site.scheme }, pages: [...site.pages] })
const resolved = await measure('the same, and every reference resolved', fresh, async (one) => {
  const facts = await readAll()
  const names = namesOf(one)
  const home = homeFileOf(one)
  let missing = 0
  for (const page of one.pages) {
    const from = names.pages.get(page.id)!.path
    for (const { href } of facts.get(page.content)!.references)
      if (resolveReference(href, from, names, home).kind === 'missing') missing++
  }
  if (missing > 0) throw new Error(`${missing} references lead nowhere.`)
})
const checked = await measure('the same, every reference resolved, and all rules', fresh, async (one) => {
  const facts = await readAll()
  return findFindings(one, {
    textOf: texts.textOf,
    factsOf: (hash) => facts.get(hash)!,
  })
})
let changes = 0
const facts = new Map(await readAll())
await measure(
  'all rules again after a text changed',
  async () => {
    const [first, ...rest] = site.pages
    const text = `<p>Changed ${++changes}, see <a href="/nowhere.html">it</a>.</p>`
    const content = texts.put(text)
    facts.set(content, await readContent(text))
    return { ...site, pages: [{ ...first!, content }, ...rest] }
  },
  (one) => findFindings(one, { textOf: texts.textOf, factsOf: (hash) => facts.get(hash)! }),
  // So short that five would tell of other work on the machine.
  25,
)
ratio('  read : a bare parse', read, parse)
ratio('  read and resolved : a bare parse', resolved, parse)
ratio('  read and checked by all rules : a bare parse', checked, parse)
await endReaders()

/** A thread is ended after a minute without work: what comes next waits for it to start. */
const started = (name: string, folder: string | undefined) =>
  measure(
    name,
    () => threadsFrom(folder, 'server/contents/reading.worker.ts', { threads: 1, memoryMb: 500, waiting: 1 }),
    async (threads) => {
      await threads.run({ kind: 'html', text: '<p>One page</p>' })
      await threads.destroy()
    },
    3,
  )
const fromSources = await started('a text read by a thread that starts from sources', undefined)
const fromBuilt = await started('the same from what was built', process.env.RUBRICANT_THREADS)
ratio('  built : sources', fromBuilt, fromSources)
