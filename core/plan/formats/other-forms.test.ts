import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { outlines } from '#core/testing'
import { planSite, readOutline, walkOutline, writeOutline } from '../index'
import { guessPlanForm, type PlanForm, readPlan } from './index'

/** A plan as people have it, read as what it is taken for: its lines, indented by two. */
function planOf(text: string, form: PlanForm = guessPlanForm(text)): string[] {
  const read = readPlan(form, text)
  if ('refusal' in read) throw new Error(`${read.refusal.line}: ${read.refusal.reason}`)
  const { home, top } = planSite(read, 'Home')
  const lines = walkOutline([{ ...home, children: top }])
  return lines.map(({ node, depth }) => '  '.repeat(depth) + node.label)
}
const notesOf = (text: string) => {
  const read = readPlan(guessPlanForm(text), text)
  return 'refusal' in read ? [read.refusal.reason] : read.notes
}
const saltpan = ['Home', '  Visit', '    Getting here', '    Prices', '  Contact']

describe('what people have of a site is read as its plan', () => {
  test.each([
    ['addresses of pages', 'https://saltpan.example/\nhttps://saltpan.example/visit/\nhttps://saltpan.example/visit/getting-here.html\nhttps://saltpan.example/visit/prices.html\nhttps://saltpan.example/contact.html'],
    ['paths from the top', '/index.html\n/visit/index.html\n/visit/getting_here.html\n/visit/prices.html\n/contact.html'],
    ['files, as they were listed', './index.html\n./style.css\n./visit/default.htm\n./visit/GettingHere.htm\n./visit/prices.html\n./pictures/bell.jpg\n./contact.html'],
    ['files under a folder of their own', 'public_html/index.html\npublic_html/visit.html\npublic_html/visit/getting-here.html\npublic_html/visit/prices.html\npublic_html/contact.html'],
    ['files of another system', 'C:\\sites\\saltpan\\index.htm\nC:\\sites\\saltpan\\visit\\index.htm\nC:\\sites\\saltpan\\visit\\getting%20here.htm\nC:\\sites\\saltpan\\visit\\prices.htm\nC:\\sites\\saltpan\\contact.htm'],
    ['a sitemap', '<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="urn:x">\n<url><loc>https://saltpan.example/</loc></url>\n<url><loc>https://saltpan.example/visit/</loc><priority>1</priority></url><url><loc>https://saltpan.example/visit/getting-here</loc></url>\n<url><loc>https://saltpan.example/visit/prices</loc></url><url><loc> https://saltpan.example/contact </loc></url></urlset>'],
    ['a tree of files', '.\n├── index.html\n├── style.css\n├── visit\n│   ├── getting-here.html\n│   ├── index.html\n│   └── prices.html\n└── contact.html\n\n1 directory, 6 files'],
    ['a tree of files in plain signs', 'saltpan\n|-- index.html\n|-- visit\n|   |-- getting-here.html\n|   `-- prices.html\n`-- contact.html'],
    ['a tree of labels', 'Home\n├─ Visit\n│  ├─ Getting here\n│  └─ Prices\n└─ Contact'],
    ['ways down', 'Home\nHome > Visit\nHome > Visit > Getting here\nHome > Visit > Prices\nHome > Contact'],
    ['ways down, by another sign', 'Home / Visit / Getting here\nHome / Visit / Prices\nHome / Contact'],
    ['a menu', '<ul class="menu">\n<li><a href="/">Home</a>\n<ul><li><a href="/visit">Visit</a><ul><li>Getting <b>here</b></li><li>Prices</li></ul></li>\n<li>Contact<script>x()</script></li></ul></li></ul>'],
    ['the menu of a whole page', '<!doctype html><html><head><title>x</title></head><body><ul><li>no part of it</li></ul><nav><ul><li>Home<ul><li>Visit<ul><li>Getting here<li>Prices</ul><li>Contact</ul></ul></nav><p>…</p></body></html>'],
    ['a table with levels', 'Page,Depth,Notes\nHome,1,x\nVisit,2,\nGetting here,3,\nPrices,3,\nContact,2,'],
    ['a table with parents', 'Name\tParent page\tSummary\nHome\t\tx\nVisit\tHome\ty\nContact\thome\nGetting here\tVisit\nPrices\tVisit'],
    ['a table as Markdown has it', '| Page | Level |\n|------|:-----:|\n| Home | 1 |\n| Visit | 2 |\n| Getting here | 3 |\n| Prices | 3 |\n| Contact | 2 |'],
    ['columns of a spreadsheet', 'Home\n\tVisit\n\t\tGetting here\tnot written yet\n\t\tPrices\tnot written yet\n\tContact\tnot written yet'],
    ['values beside labels', 'Home\tWelcome\tindex.html\n\tVisit\tHow to come\tvisit.html\n\t\tGetting here\t-\tgetting-here.html\n\t\tPrices\t-\tprices.html\n\tContact\t-\tcontact.html'],
    ['a column a level', 'Level 1,Level 2,Level 3,Who\nHome,,,x\n,Visit,,\n,,Getting here,y\n,,Prices,\n,Contact,,'],
    ['a column a level, each way whole', 'Ebene 1;Ebene 2;Ebene 3\nHome;;\nHome;Visit;\nHome;Visit;Getting here\nHome;Visit;Prices\nHome;Contact;'],
    ['rows of sections without a header', 'Home,Visit,Getting here\nHome,Visit,Prices\nHome,Contact,'],
    ['outline numbers in a column', 'No.\tPage\n1\tHome\n1.1\tVisit\n1.1.1\tGetting here\n1.1.2\tPrices\n1.2\tContact'],
    ['numbers under names that are not known', 'Nr;Seite;Wer\n1.0;Home;A\n1.1;Visit;\n1.1.1;Getting here;B\n1.1.2;Prices;\n1.2;Contact;'],
    ['levels under names that are not known', 'Ebene;Seite\n1;Home\n2;Visit\n3;Getting here\n3;Prices\n2;Contact'],
    ['parents by their ids', 'ID;Parent ID;Name\n7;0;Home\n8;7;Visit\n9;8;Getting here\n10;8;Prices\n11;7;Contact'],
    ['ways without spaces', 'Home\nHome/Visit/Getting here\nHome/Visit/Prices\nHome/Contact'],
    ['a list of tasks', '- [x] Home\n  - [x] Visit\n    - [ ] Getting here\n    - [ ] Prices\n  - [ ] Contact'],
    ['a list of a word processor', 'Home\n•\tVisit\no\tGetting here\no\tPrices\n•\tContact'],
    ['bullets of several kinds', '● Home\n○ Visit\n■ Getting here\n■ Prices\n○ Contact'],
    ['what is counted with letters', 'Home\n  I. Visit\n    a) Getting here\n    b) Prices\n  II. Contact'],
  ])('%s', (_, text) => {
    expect(planOf(text)).toEqual(saltpan)
  }) // prettier-ignore

  const lines = (text: string) => planOf(text).slice(1)
  test.each([
    ['sections, said once', '| Section | Page |\n|---|---|\n| Visit | Getting here |\n| | Prices |\n| Stay | Rooms |'],
    ['sections, said again', 'Category,Page,Description\nVisit,Getting here,x\nVisit,Prices,\nStay,Rooms,'],
    ['a menu and what is below it', 'Our new site\n\nMain menu\tSubmenu\nVisit\tGetting here\n\tPrices\nStay\tRooms'],
    ['a letter that names them', 'Visit: Getting here, Prices.\nStay: Rooms, '],
    ['addresses and titles', 'URL,Title\n/visit/,Visit\n/visit/here.html,Getting here\nhttps://a.example/visit/prices/?x,Prices\n/stay,Stay\n/stay/rooms,Rooms'],
  ])('pages below sections: %s', (_, text) => {
    expect(lines(text)).toEqual(['  Visit', '    Getting here', '    Prices', '  Stay', '    Rooms'])
  }) // prettier-ignore

  test('where sections are said again, a page without one stands by itself; a section that is a page of its own is it once', () => {
    expect(lines('Section,Page,Title\nVisit,,All about it\nVisit,Prices,\nVisit,Prices,\n,Contact,')).toEqual(
      ['  Visit', '    Prices', '    Prices', '  Contact'],
    )
    const read = readPlan('csv', 'Section,Page,Title\nVisit,,All about it\nVisit,Prices,')
    expect(read).toMatchObject({ nodes: [{ label: 'Visit', details: { title: 'All about it' } }] })
  })

  test('a plan written with a column a level comes out again, whether sections are said again or not', () => {
    const plain = outlines.filter((nodes) => nodes.length > 0)
    fc.assert(
      fc.property(plain, fc.boolean(), (nodes, isSaidAgain) => {
        const all = walkOutline(nodes)
        const deepest = Math.max(...all.map(({ depth }) => depth))
        fc.pre(deepest > 0)
        const way: string[] = []
        // Each label is another, since two of one name below one page are told apart by nothing here.
        const rows = all.map(({ depth }, index) => {
          way.length = depth
          way[depth] = `Page no ${index}`
          return Array.from({ length: deepest + 1 }, (_, at) =>
            at === depth || (isSaidAgain && at < depth) ? way[at]! : '',
          )
        })
        const header = Array.from({ length: deepest + 1 }, (_, at) => `Level ${at + 1}`)
        const text = [header, ...rows].map((row) => row.join('\t')).join('\n')
        const read = readPlan(guessPlanForm(text), text)
        if ('refusal' in read) throw new Error(read.refusal.reason)
        expect(walkOutline(read.nodes).map(({ node, depth }) => [depth, node.label])).toEqual(
          all.map(({ depth }, index) => [depth, `Page no ${index}`]),
        )
        expect(read.lineNumbers).toEqual(all.map((_, index) => index + 2))
      }),
      { numRuns: 200 },
    )
  })

  test('lines and cells at their longest end', () => {
    for (const [line, form] of [
      [`a: ${','.repeat(15_000)}:`, 'text'],
      [`1${'.0'.repeat(9_000)}x;b`, 'csv'],
      [`${'a/'.repeat(9_000)};Page`, 'csv'],
      ['a;'.repeat(9_000), 'csv'],
    ] as const) {
      const text = `url;page\n${`${line}\n`.repeat(150)}`
      expect(guessPlanForm(`${line}\n`.repeat(150))).toBeDefined()
      expect(readPlan(form, text)).toBeDefined()
    }
  })

  test('yes and no as others write them; what is neither hides no page, and is told', () => {
    const text = 'Page;In menu;Trial\nVisit;✓;FALSCH\nRooms;–;x\nPrices;later;\nBoats;Later;no\nBirds;nein;perhaps'
    const read = readPlan(guessPlanForm(text), text)
    if ('refusal' in read) throw new Error(read.refusal.reason)
    expect(read.nodes.map(({ inMenus, trial }) => [inMenus, trial])).toEqual([
      [true, false],
      [false, true],
      [true, false],
      [true, false],
      [false, false],
    ])
    expect(read.notes).toEqual(
      expect.arrayContaining([
        'In “trial”, neither yes nor no, and passed over: “perhaps” (line 6).',
        'In “in menus”, neither yes nor no, and passed over: “later” (line 4), “Later” (line 5).',
      ]),
    )
  }) // prettier-ignore

  test('dates and languages as others write them; what is neither is told', () => {
    const text = 'Page;Dated;Published;Lang\nNews;ja;;\nGale;;3 March 2031;German\nPier;;14.6.2030;de-AT\nFog;;soon;Elvish\nHail;maybe;2031-02;'
    const read = readPlan(guessPlanForm(text), text)
    if ('refusal' in read) throw new Error(read.refusal.reason)
    expect(read.nodes.map(({ details }) => details)).toEqual([
      { dated: true },
      { date: '2031-03-03', language: 'de' },
      { date: '2030-06-14', language: 'de-AT' },
      undefined,
      { date: '2031-02' },
    ])
    expect(read.notes).toEqual(
      expect.arrayContaining([
        'In “dated”, neither yes nor no, and passed over: “maybe” (line 6).',
        'In “language”, no language, and passed over: “Elvish” (line 5).',
        'In “date”, no date, and passed over: “soon” (line 5).',
      ]),
    )
  }) // prettier-ignore

  test('of a list of addresses what is left out is told, and names that no scheme makes stay', () => {
    const text = 'https://a.example/about_us.php\nhttps://b.example/\nhttps://a.example/logo.png\nhttps://www.a.example/page.php?id=prices'
    const read = readPlan(guessPlanForm(text), text)
    if ('refusal' in read) throw new Error(read.refusal.reason)
    expect(walkOutline(read.nodes).map(({ node }) => [node.label, node.details?.ownName])).toEqual([
      ['About us', 'about_us'],
      ['Page', undefined],
      ['Prices', undefined],
    ])
    expect(read.notes.join()).toContain('One address at another host')
    expect(read.notes.join()).toContain('One file that is no page')
  }) // prettier-ignore

  test('what cannot be is said with its line', () => {
    expect(readPlan('csv', 'page,parent\nVisit,\nPrices,Rooms\n')).toMatchObject({ refusal: { line: 3 } })
    expect(readPlan('csv', 'page,parent\nA,B\nB,A\n')).toMatchObject({ refusal: { line: 2 } })
    expect(readPlan('addresses', 'style.css\nlogo.png')).toMatchObject({ refusal: { line: 1 } })
    expect(readPlan('menu', '<p>no list</p>')).toMatchObject({ refusal: { line: 1 } })
    expect(readPlan('addresses', '<urlset>\n<url><loc>x</url></urlset>')).toMatchObject({
      refusal: { line: 2 },
    })
  })

  test.each([
    'Home\n  Rooms > 20\n  News/Events\n  index.html',
    'Sunday\nA. Smith\nB. Jones',
    'Visit\nmade with style.css',
    'Rooms, prices\nContact',
    'News/Events\nRooms/prices\nContact',
    'Sunday: open\nMonday: closed\nRooms, prices',
    'Where: here\nRooms',
    'One,two\nThree,four',
    '1.\tHome\n2.\tVisit\n3.\tContact',
  ])('labels stay labels: %j', (text) => {
    expect(guessPlanForm(text)).toBe('text')
    expect(notesOf(text)).toEqual([])
  })

  const flat = (labels: readonly string[]) =>
    labels.map((label) => ({ label, trial: false, inMenus: true, children: [] }))
  const odd = fc.array(
    fc.constantFrom('/a', 'b/', 'https://c.example/', 'd.html', 'A > B', 'C / D', '<li>x', '| a |', '|--|', '├── e', 'Page, x', 'a) f', 'b) g', 'i. h', 'ii. j', '---x', '--- y', '|-- z', 'o o'),
    { minLength: 1, maxLength: 5 },
  ) // prettier-ignore
  test('a plan that is written as text is read as that, whatever its labels look like', () => {
    fc.assert(fc.property(outlines, (nodes) => expect(guessPlanForm(writeOutline(nodes))).toBe('text')))
    fc.assert(
      fc.property(odd, fc.boolean(), (labels, isUnderOne) => {
        const nodes = isUnderOne ? [{ ...flat(['Home'])[0]!, children: flat(labels) }] : flat(labels)
        const text = writeOutline(nodes)
        expect(guessPlanForm(text)).toBe('text')
        expect(readOutline(text).nodes).toEqual(nodes)
      }),
      { numRuns: 500 },
    )
  })
})

describe('a home page that has others under it and beside it', () => {
  const plan = (text: string) => planSite(readOutline(text), 'Saltpan Chapel')
  test.each([
    '• Home\n\t• Visit\n• Contact',
    '🏠 Startseite\n  Visit\nContact',
    'Saltpan Chapel\n  Visit\nContact',
  ])('is the home page of the site: %j', (text) => {
    const { home, top, notes } = plan(text)
    expect(home.children).toEqual([])
    expect(top.map(({ label }) => label)).toEqual(['Visit', 'Contact'])
    expect(notes.join()).toContain('is the home page')
  })
  test('any other first line is a section', () => {
    expect(plan('Rooms\n  Visit\nContact').home.label).toBe('Saltpan Chapel')
  })
})
