/**
 * Many authors at once: 200 of them, each with a site of 200 pages, who change a label or write in a text every few
 * seconds, as people do. How long a change takes to be saved, and what the server's memory comes to; over one process, and
 * over two.
 */
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { planSite, readOutline } from '#core/plan'
import type { Site } from '#core/site'
import { beginSession, signUp } from '#server/accounts'
import { pool, stopListening } from '#server/platform'
import { createSite, loadSite } from '#server/sites'

const authors = 200
const pages = 200
const warmMs = 8_000
const runMs = 45_000
/** Between two changes of one author: from a letter's pause to a look at the page. */
const pauseMs = () => 1_500 + Math.random() * 6_000

const addresses = process.env.BENCH_ADDRESSES!.split(' ')
const pids = process.env.BENCH_PIDS!.split(' ')

interface Author {
  readonly cookie: string
  readonly siteId: string
  readonly site: Site
  revision: number
  readonly labels: Map<string, string>
  readonly contents: Map<string, string>
}

const plan = `Home\n${Array.from({ length: pages - 1 }, (_, nth) => `${nth % 10 === 0 ? '  ' : '    '}Page ${nth + 1}`).join('\n')}`

async function makeAuthor(): Promise<Author> {
  const { id } = (await signUp(`${randomUUID()}@saltpan.example`, randomUUID()))!
  const siteId = await createSite(id, {
    name: 'Saltpan Chapel',
    language: 'en',
    plan: planSite(readOutline(plan), 'Saltpan Chapel'),
  })
  const { site, revision } = (await loadSite(pool(), siteId, id))!
  const cookie = (await beginSession({ id }))
    .getSetCookie()
    .map((one) => one.split(';')[0]!)
    .join('; ')
  return {
    cookie,
    siteId,
    site,
    revision,
    labels: new Map(site.pages.map((page) => [page.id, page.label])),
    contents: new Map(site.pages.map((page) => [page.id, page.content])),
  }
}

let changes = 0
async function change(author: Author, address: string): Promise<number> {
  const page = author.site.pages[1 + Math.floor(Math.random() * (pages - 1))]!
  const nth = ++changes
  const isLabel = Math.random() < 0.3
  const value = `Label ${nth}`
  const text = `<p>${`Sentence ${nth} of a page that somebody writes. `.repeat(20)}</p>\n`
  const made = isLabel
    ? { kind: 'setPageText', pageId: page.id, field: 'label', value, was: author.labels.get(page.id) }
    : { kind: 'setContent', pageId: page.id, text, was: author.contents.get(page.id) }
  const begun = performance.now()
  const response = await fetch(`${address}/sites/${author.siteId}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie: author.cookie, origin: address },
    body: JSON.stringify({ seen: author.revision, do: 'change', change: made, shown: true }),
  })
  const answer = (await response.json()) as {
    revision?: number
    diffs?: { pages: Record<string, { after?: { label?: string; content?: string } | null }> }[]
  }
  const took = performance.now() - begun
  if (!response.ok || answer.revision === undefined) throw new Error(JSON.stringify(answer).slice(0, 300))
  author.revision = answer.revision
  for (const { pages: rows } of answer.diffs ?? [])
    for (const [id, { after }] of Object.entries(rows)) {
      if (after?.label !== undefined) author.labels.set(id, after.label)
      if (after?.content !== undefined) author.contents.set(id, after.content)
    }
  return took
}

const memoryMb = (pid: string) =>
  Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1_000)

async function run(people: readonly Author[], over: readonly string[]): Promise<void> {
  const times: number[] = []
  const begun = performance.now()
  const work = async (author: Author, index: number) => {
    const address = over[index % over.length]!
    await new Promise((resolve) => setTimeout(resolve, Math.random() * 6_000))
    while (performance.now() - begun < warmMs + runMs) {
      const took = await change(author, address)
      if (performance.now() - begun > warmMs) times.push(took)
      await new Promise((resolve) => setTimeout(resolve, pauseMs()))
    }
  }
  await Promise.all(people.map(work))
  times.sort((a, b) => a - b)
  const at = (part: number) => Math.round(times[Math.min(times.length - 1, Math.floor(part * times.length))]!)
  const processes = over.length === 1 ? 'one process ' : `${over.length} processes`
  console.log(
    `    ${processes}   ${times.length} changes, ${(times.length / (runMs / 1_000)).toFixed(0)} a second; saved in ${at(0.5)} ms, 95 of 100 in ${at(0.95)} ms, 99 in ${at(0.99)} ms; memory at the most ${pids
      .slice(0, over.length)
      .map((pid) => `${memoryMb(pid)} MB`)
      .join(' and ')}`,
  )
}

const people: Author[] = []
for (let nth = 0; nth < authors; nth++) people.push(await makeAuthor())
console.log(`\n${authors} authors edit ${authors} sites of ${pages} pages at the speed of people\n`)
await run(people, addresses.slice(0, 1))
await run(people, addresses)
await stopListening()
await pool().end()
