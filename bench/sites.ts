import { createHash } from 'node:crypto'
import { newSite } from '#core/change'
import { plainKit } from '#core/kit'
import { type HtmlFacts, readHtml } from '#core/markup'
import { namesOf } from '#core/naming'
import { type OutlineNode } from '#core/plan'
import type { Site } from '#core/site'
import { starterStyle } from '#core/style'
import { defaultTemplate } from '#core/template'

/** Texts and facts by hash in memory, as the server has them after the first time. */
export class Texts {
  readonly texts = new Map<string, string>()
  readonly #facts = new Map<string, HtmlFacts>()
  readonly year = 2031
  put(text: string): string {
    const hash = createHash('sha256').update(text).digest('hex')
    this.texts.set(hash, text)
    return hash
  }
  readonly textOf = (hash: string): string => this.texts.get(hash)!
  readonly factsOf = (hash: string): HtmlFacts => {
    let facts = this.#facts.get(hash)
    if (!facts) this.#facts.set(hash, (facts = readHtml(this.textOf(hash))))
    return facts
  }
}

const words = [
  'Tides',
  'Harbour',
  'Keepers',
  'Lamp',
  'Shingle',
  'Café',
  'Ringing log',
  'Storm & calm',
  'Season',
  'Walls',
]

/** About `count` pages: twenty sections of twenty-five, and the rest spread below those. */
function outline(count: number): OutlineNode[] {
  let made = 0
  const node = (depth: number): OutlineNode => {
    const label = `${words[made % words.length]} ${++made}`
    const width = depth === 0 ? 25 : depth === 1 ? Math.ceil(count / 500) - 1 : 0
    const children: OutlineNode[] = []
    for (let at = 0; at < width && made < count - 1; at++) children.push(node(depth + 1))
    return { label, trial: false, inMenus: true, children }
  }
  const top: OutlineNode[] = []
  while (made < count - 1) top.push(node(0))
  return top
}

/** A site of `pageCount` pages, each with a text of about 2 KB that links to `linkCount` others. */
export function largeSite(pageCount: number, linkCount: number): { site: Site; texts: Texts } {
  const texts = new Texts()
  let ids = 0
  const site = newSite({
    id: 'bench',
    name: 'Saltpan Chapel',
    language: 'en',
    plan: {
      home: { label: 'Saltpan Chapel', trial: false, inMenus: true, children: [] },
      top: outline(pageCount),
      notes: [],
    },
    newId: () => `00000000-0000-4000-8000-${String(++ids).padStart(12, '0')}`,
    emptyContent: texts.put(''),
    kit: plainKit({
      template: texts.put(defaultTemplate),
      style: { hash: texts.put(starterStyle()), sizeBytes: starterStyle().length },
    }),
  })
  const names = namesOf(site)
  const paths = site.pages.map((page) => names.pages.get(page.id)!.path)
  const pages = site.pages.map((page, index) => {
    const links = Array.from({ length: linkCount }, (_, at) => {
      const to = paths[(index * 7 + at * 131) % paths.length]!
      return `<p>The keeper wrote it down, and it stands in the log to this day; see <a href="/${to}">page ${at}</a> for the rest of that winter.</p>`
    })
    return { ...page, content: texts.put(`<h2>Of ${index}</h2>\n${links.join('\n')}\n`) }
  })
  return { site: { ...site, pages }, texts }
}

/** Pages of about 24 KB each that somebody typed: one frame, one menu, a text of paragraphs, lists and links. */
export function* handMade(
  pageCount: number,
): Generator<{ path: string; kind: 'page'; hash: string; sizeBytes: number; text: string }> {
  const paths = Array.from({ length: pageCount }, (_, at) =>
    at === 0
      ? 'index.html'
      : at % 20 === 1
        ? `part${(at - 1) / 20}/index.html`
        : `part${Math.floor((at - 1) / 20)}/page${at}.html`,
  )
  for (const [at, path] of paths.entries()) {
    const up = path.includes('/') ? '../' : ''
    const menu = paths
      .filter((_, to) => to % 20 === 1)
      .slice(0, 20)
      .map((to, nth) => `<li><a href="${up}${to}">Part ${nth}</a></li>`)
    const paragraphs = Array.from({ length: 130 }, (_, nth) => {
      const to = paths[(at * 7 + nth * 13) % pageCount]!
      return `    <p>The keeper wrote on day ${at * 130 + nth} that the <em>wind</em> was from the north, and <a href="${up}${to}">looked it up</a> in the log of that winter.</p>`
    })
    const text = `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>Page ${at} - Marrow Skerry</title>
  <link rel="stylesheet" href="${up}style.css">
</head>
<body>
  <div id="head"><a href="${up}index.html">Marrow Skerry</a></div>
  <ul class="menu">
    ${menu.join('\n    ')}
  </ul>
  <div id="content">
    <h1>Page ${at}</h1>
${paragraphs.join('\n')}
  </div>
  <p class="foot">Marrow Skerry Light, kept by hand</p>
</body>
</html>
`
    yield { path, kind: 'page' as const, hash: String(at).padStart(64, '0'), sizeBytes: text.length, text }
  }
}
