import { randomUUID } from 'node:crypto'
import os from 'node:os'
import { buildSite } from '#core/build'
import { edit, findRewrites } from '#core/change'
import type { Site } from '#core/site'
import { findFindings } from '#core/findings'
import { namesOf } from '#core/naming'
import { Speller } from '#core/spelling'
import { matchPlan, outlineOfSite, planSite, readOutline, writeOutline } from '#core/plan'
import { signUp } from '#server/accounts'
import { migrate, pool, stopListening } from '#server/platform'
import { changeSite, createSite, loadSite } from '#server/sites'
import { dictionaryCalled } from '../server/sites/spelling/dictionaries'
import { readByHand, writeByHand } from './by-hand'
import { measure, measureInTurn, median } from './measure'
import { largeSite } from './sites'

const pageCount = 10_000
console.log(
  `Node.js ${process.version}, ${os.cpus().length} processors; medians of 5 runs after one to warm up\n`,
)

const { site, texts } = largeSite(pageCount, 10)
/** The same site as if just read: nothing computed for it yet. */
const fresh = () => ({ ...site, scheme: { ...site.scheme }, pages: [...site.pages] })

await measure(`names for ${pageCount} pages`, fresh, (one) => namesOf(one))

const prepared = buildSite(site, texts)
const finished = prepared.entries.map((entry) => prepared.textOf(entry.id))
const byHand = finished.filter((text) => text.startsWith('<!DOCTYPE')).map(readByHand)
// The home page has no link to itself, which a loop would not trouble with.
const written = new Set(finished)
const strange = byHand.filter((page) => !written.has(writeByHand(page)))
if (strange.length > 1) throw new Error(`The loop writes ${strange.length} pages otherwise.`)
/** Each made and written as bytes, one after the other as they are sent; none is kept. */
function sizeOf<T>(all: readonly T[], textOf: (one: T) => string): number {
  let bytes = 0
  for (const one of all) bytes += Buffer.from(textOf(one)).length
  return bytes
}
const [write, build, loop] = measureInTurn([
  {
    name: 'the bytes of all its pages, written to memory',
    work: () => sizeOf(finished, (text) => text),
  },
  {
    name: `building the site of ${pageCount} pages`,
    prepare: fresh,
    work: (one: Site) => {
      const made = buildSite(one, texts)
      return sizeOf(made.entries, (entry) => made.textOf(entry.id))
    },
  },
  {
    name: 'a loop over a template literal that writes the same',
    work: () => sizeOf(byHand, writeByHand),
  },
]) as [number[], number[], number[]]
const inRounds = (name: string, of: (round: number) => number, digits: number, unit: string) =>
  console.log(
    `${name.padEnd(64)} ${median(build.map((_, round) => of(round)))
      .toFixed(digits)
      .padStart(7)}${unit}`,
  )
inRounds('  building : writing the same bytes', (round) => build[round]! / write[round]!, 2, '')
inRounds('  building : the loop', (round) => build[round]! / loop[round]!, 2, '')
inRounds(
  '  a page built, over one of the loop',
  (round) => ((build[round]! - loop[round]!) / pageCount) * 1000,
  0,
  ' µs',
)

const deep = site.pages.find((page) => page.parentId !== null)!
const signatures = new Map(prepared.entries.map((entry) => [entry.id, prepared.signatureOf(entry.id)]))
const rebuild = await measure(
  'building it again after the label of one page below changed',
  () => null,
  () => {
    const edited = edit(site, {
      kind: 'setPageText',
      pageId: deep.id,
      field: 'label',
      value: `Renamed ${randomUUID()}`,
      was: deep.label,
    })
    if ('refusal' in edited) throw new Error(edited.refusal.message)
    const made = buildSite(edited.site, texts)
    return made.entries
      .filter((entry) => made.signatureOf(entry.id) !== signatures.get(entry.id))
      .map((entry) => Buffer.from(made.textOf(entry.id)))
  },
)
console.log(
  `${'  building again : building'.padEnd(64)} ${(rebuild.medianMs / median(build)).toFixed(2).padStart(7)}`,
)

const checked = largeSite(5_000, 10)
findFindings(checked.site, checked.texts)
let content = 0
await measure(
  'findings of 5,000 pages, 50,000 references, again after a text changed',
  () => {
    const [first, ...pages] = checked.site.pages
    const text = checked.texts.put(`<p>Changed ${(content += 1)}, see <a href="/nowhere.html">it</a>.</p>`)
    checked.texts.factsOf(text)
    return { ...checked.site, pages: [{ ...first!, content: text }, ...pages] }
  },
  (one) => findFindings(one, checked.texts),
)

const speller = new Speller(dictionaryCalled)
const lastRead = checked.texts.textOf(checked.site.pages[1]!.content)
speller.look(lastRead, 'html', 'en')
await measure(
  'spelling of 5,000 pages, their words looked up before',
  () => null,
  () => checked.site.pages.map((page) => speller.look(checked.texts.textOf(page.content), 'html', 'en')),
)

const scheme = { ...site.scheme, arrangement: { kind: 'folder-a-page' as const } }
await measure('names and ripple of another scheme, 100,000 references', fresh, (one) => {
  const edited = edit(one, { kind: 'setScheme', scheme, was: one.scheme })
  if ('refusal' in edited) throw new Error(edited.refusal.message)
  return findRewrites(one, edited.site, texts)
})

const plan5000 = largeSite(5_000, 0).site
const [home] = outlineOfSite(plan5000)
/** Every tenth line renamed, every fiftieth gone, every hundredth new, the sections the other way round. */
const edited = readOutline(
  writeOutline(home!.children.toReversed())
    .split('\n')
    .flatMap((line, index) =>
      index % 50 === 7
        ? []
        : index % 100 === 9
          ? [line, `${line} more`]
          : index % 10 === 3
            ? [`${line}, renamed`]
            : [line],
    )
    .join('\n'),
).nodes
await measure(
  'matching an edited plan of 5,000 lines',
  () => null,
  () => matchPlan(plan5000, edited),
)

// ── Saving, in the database ──
await migrate()
const { id: accountId } = (await signUp(`${randomUUID()}@saltpan.example`, randomUUID()))!
const largePlan = planSite({ nodes: home!.children, notes: [] }, 'Saltpan Chapel')
const largeId = await createSite(accountId, { name: 'Saltpan Chapel', language: 'en', plan: largePlan })
let changes = 0
await measure(
  'saving a new label in a site of 5,000 pages',
  async () => (await loadSite(pool(), largeId, accountId))!.site.pages[100 + changes++]!,
  (page) =>
    changeSite(largeId, accountId, changes, () => ({
      kind: 'setPageText',
      pageId: page.id,
      field: 'label',
      value: `Renamed ${changes}`,
      was: page.label,
    })),
)

await stopListening()
await pool().end()
