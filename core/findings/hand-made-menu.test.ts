import { expect, test } from '@jest/globals'
import { applyEdits } from '#core/markup'
import { buildAll, change, siteFrom, TextStore } from '#core/testing'
import { findFindings } from './index'

const plan = 'Home\n  Visit\n    Tides\n  Birds\n  Stay\n  Contact'

/** What is found of a template with a menu, and its source once it is mended. */
function found(menu: string, indented = plan) {
  const store = new TextStore()
  let site = siteFrom(indented, store)
  const [{ id: templateId, source: was }] = site.templates as [(typeof site.templates)[0]]
  const source = `<!DOCTYPE html>\n<title>{title}</title>\n<body>\n${menu}\n<slot name="content"></slot>\n</body>\n`
  site = change(site, store, { kind: 'setTemplate', templateId, source: store.put(source), was })
  const menus = findFindings(site, store).filter(({ rule }) => rule === 'hand-made-menu')
  return menus.map(({ what, mends: [mend], place }) => {
    if (!mend || !('edits' in mend)) throw new Error('There is no way to mend it.')
    const after = store.put(applyEdits(source, mend.edits))
    const mended = change(site, store, { kind: 'setTemplate', templateId, source: after, was: mend.was })
    return {
      what,
      line: place.line,
      isGuess: mend.isOther ?? false,
      source: store.textOf(after).split('\n').slice(3, -3).join('\n'),
      made: buildAll(mended, store).get('contact.html')!,
    }
  })
}
const link = (label: string, path = `${label.toLowerCase()}.html`) => `<a href="/${path}">${label}</a>`
const visit = link('Visit', 'visit/index.html')

test('a list that lacks what was added to the plan is told, and the plan makes it from then on', () => {
  const items = [visit, link('Birds'), link('Contact')].map((one) => `<li class="i">${one}</li>`)
  const [menu, ...more] = found(`<ul id="menu">\n${items.join('\n')}\n</ul>`)
  expect(more).toEqual([])
  expect(menu).toMatchObject({
    what: 'This menu is written by hand, and lacks “Stay”.',
    line: 4,
    isGuess: false,
    source: '<site-menu levels="1" as="list" item-class="i" id="menu"></site-menu>',
  })
  expect(menu!.made).toContain('<ul id="menu">\n  <li class="i"><a href="visit/index.html">Visit</a></li>')
  expect(menu!.made).toContain('<li class="i"><a href="stay.html">Stay</a></li>')
})

test('a line with the home page is one as well; what it calls otherwise is said, and mended only when it is asked for', () => {
  const line = [link('Start', 'index.html'), visit, link('Birds'), link('Stay'), link('Contact')]
  const [menu] = found(`<p>[ ${line.join(' | ')} ]</p>`)
  expect(menu).toMatchObject({
    what: 'This menu is written by hand: it has all pages of the plan now, and will lack the next one. It says “Start” for “Home”.',
    isGuess: true,
    source: '<p>[ <site-menu levels="1" home="first" between=" | "></site-menu> ]</p>',
  })
})

test('a menu in the cells of a table goes on as it is written', () => {
  const cells = [visit, link('Birds'), link('Contact')].map((one) => `  <td bgcolor="#eee">${one}</td>`)
  const [menu] = found(`<table><tr>\n${cells.join('\n')}\n</tr></table>`)
  expect(menu).toMatchObject({
    what: 'This menu is written by hand, and lacks “Stay”.',
    source: `<table><tr>
  <template part="site-menu" levels="1">
    <td bgcolor="#eee"><a href="{entry.address}">{entry.label}</a></td>
  </template>
</tr></table>`,
  })
  expect(menu!.made).toContain('<tr>\n  <td bgcolor="#eee"><a href="visit/index.html">Visit</a></td>')
  expect(menu!.made).toContain('  <td bgcolor="#eee"><a href="stay.html">Stay</a></td>\n')
})

test('a menu of two levels is one of two', () => {
  const list = `<ul><li>${visit}<ul><li>${link('Tides', 'visit/tides.html')}</li></ul></li><li>${link('Birds')}</li><li>${link('Stay')}</li></ul>`
  expect(found(list)).toMatchObject([
    {
      what: expect.stringContaining('lacks “Contact”'),
      source: '<site-menu levels="2" as="list"></site-menu>',
    },
  ])
})

test.each([
  ['few of many', `<p>${link('Stay')} | ${link('Contact')}</p>`],
  ['another order', `<p>${link('Stay')} | ${visit} | ${link('Contact')} | ${link('Birds')}</p>`],
  ['something else among them', `<ul><li>${visit}</li><li>${link('Birds')}</li><li>${link('Stay')}</li><li><a href="https://boats.example/">Boats</a></li></ul>`],
  ['a page that is in no menu of the plan', `<ul><li>${visit}</li><li>${link('Birds')}</li><li>${link('Stay')}</li><li>${link('Tides', 'visit/tides.html')}</li></ul>`],
  ['what the plan makes already', '<site-menu></site-menu>'],
])('%s is no menu of the plan, and is left to its author', (_, menu) => {
  expect(found(menu)).toEqual([])
}) // prettier-ignore
