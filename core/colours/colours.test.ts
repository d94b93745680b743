import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { contrast, findPoorContrast, readColour } from './index'

/** What is told of a page with some styles: the colours, and what was written where. */
function poorIn(body: string, css = '', sheets: Record<string, string> = {}, head = '') {
  const all: Record<string, string> = { 'site.css': css, ...sheets }
  const html = `<!DOCTYPE html>\n<html lang="en"><head><title>T</title><link rel="stylesheet" href="/site.css">${head}</head><body>\n${body}\n</body></html>`
  return findPoorContrast({ html, path: 'visit/index.html', sheetAt: (path) => all[path] ?? null })
}
const pairs = (...args: Parameters<typeof poorIn>) =>
  poorIn(...args).map(({ scheme, text, ground }) => `${scheme === 'dark' ? 'dark ' : ''}${text} on ${ground}`)

test('says what is seen, what is needed, and where the colour is written', () => {
  const css = 'body { color: #222 }\n.quiet { color: #999; }\n'
  expect(poorIn('<p>Fine</p>\n<p class="quiet">Tide <b>table</b></p>\n<p class="quiet">Again</p>', css)).toEqual([
    {
      ...{ text: '#999999', ground: '#ffffff', needed: 4.5, scheme: 'light', count: 3, better: '#767676' },
      ratio: expect.closeTo(2.849, 2),
      ...{ piece: '<p class="quiet">', line: 4, words: 'Tide' },
      at: { path: 'site.css', start: css.indexOf('#999'), end: css.indexOf('#999') + 4, line: 2, column: 17 },
    },
  ])
}) // prettier-ignore

test('large letters need less, and what is not known to be small is taken for large', () => {
  const css = 'h1, h2, p, b { color: #8a8a8a }'
  expect(poorIn('<h1>Large</h1><h2>Large and bold</h2>', css)).toEqual([])
  expect(poorIn('<p>Small</p>', css)[0]).toMatchObject({ needed: 4.5 })
  expect(poorIn('<p style="font-size: 24px">x1</p><b style="font-size: 14pt">x2</b>', css)).toEqual([])
  expect(poorIn('<p style="font-size: 14pt">Not bold</p>', css)).toHaveLength(1)
  expect(poorIn('<p style="font-size: calc(1rem + 1vw)">Who knows</p>', css)).toEqual([])
  expect(poorIn('<p style="color: #aaa; font-size: 40px">Large</p>', css)[0]).toMatchObject({ needed: 3 })
})

test('the declaration that wins is that of the standard', () => {
  const of = (css: string, body = '<p id="i" class="c d">x</p>') => pairs(body, css)
  expect(of('p { color: #999 } p { color: #888 }')).toEqual(['#888888 on #ffffff'])
  expect(of('#i { color: #999 } .c.d { color: #000 }')).toEqual(['#999999 on #ffffff'])
  expect(of('p { color: #999 !important } #i { color: #000 }')).toEqual(['#999999 on #ffffff'])
  expect(of(':where(#i) { color: #000 } p { color: #999 }')).toEqual(['#999999 on #ffffff'])
  expect(of(':is(#i, .no) { color: #999 } .c.d.c { color: #000 }')).toEqual(['#999999 on #ffffff'])
  expect(of('@layer a, b; @layer b { p { color: #999 } } @layer a { #i { color: #000 } }')).toEqual(['#999999 on #ffffff'])
  expect(of('@layer a { p { color: #999 !important } } #i { color: #000 !important }')).toEqual(['#999999 on #ffffff'])
  // What is no colour is passed over, and the one before it holds.
  expect(of('p { color: #999; color: #99 } p { color: nothing }')).toEqual(['#999999 on #ffffff'])
  expect(of('p { color: #000 }', '<p style="color: #999">x</p>')).toEqual(['#999999 on #ffffff'])
  // Only as nobody touches it, and on a wide screen.
  expect(of('p:hover { color: #999 } @media print { p { color: #999 } } @media (width < 40em) { p { color: #999 } }')).toEqual([])
  expect(of('@media screen and (min-width: 40em) { p { color: #999 } }')).toEqual(['#999999 on #ffffff'])
  expect(of('.c { color: #000; &.d { color: #999 } }')).toEqual(['#999999 on #ffffff'])
  expect(of('body { p { color: #999 } }')).toEqual(['#999999 on #ffffff'])
}) // prettier-ignore

test('variables stand for what they hold, and a colour is where it is written', () => {
  const css = ':root { --ink:  #999; --text: var(--ink) }\np { color: var(--text) }'
  expect(poorIn('<p>x</p>', css)[0]).toMatchObject({ at: { line: 1, start: css.indexOf('#999'), end: css.indexOf('#999') + 4 } })
  expect(pairs('<p>x</p>', 'p { color: var(--none, #999) }')).toEqual(['#999999 on #ffffff'])
  expect(pairs('<div style="--a: #999"><p>x</p></div>', 'p { color: var(--a, #000) }')).toEqual(['#999999 on #ffffff'])
  // What goes in a circle stands for nothing, as does what grows without end.
  expect(pairs('<p>x</p>', 'p { --a: var(--b); --b: var(--a); color: var(--a) }')).toEqual([])
  const bomb = Array.from({ length: 12 }, (_, nth) => `--v${nth}: var(--v${nth + 1}) var(--v${nth + 1});`).join('')
  expect(pairs('<p>x</p>', `p { ${bomb} --v12: ; color: var(--v0) #999 }`)).toEqual([])
}) // prettier-ignore

test('grounds are those of what is around the text, through what lets them through', () => {
  expect(pairs('<div style="background: #000"><p style="color: #333">x</p></div>')).toEqual(['#333333 on #000000'])
  expect(pairs('<div style="background: rgb(0 0 0 / 50%)"><p>x</p></div>')).toEqual([])
  expect(pairs('<div style="background: #000"><p style="background: rgb(255 255 255 / 20%)">x</p></div>')).toEqual(['#000000 on #333333'])
  expect(pairs('<p style="color: rgb(0 0 0 / .3)">x</p>')).toEqual(['#b3b3b3 on #ffffff'])
  expect(pairs('<div style="opacity: .3"><p>x</p></div>')).toEqual(['#b3b3b3 on #ffffff'])
  expect(pairs('<div style="background: #eee url(sea.jpg)"><p style="color: #ddd">On a picture</p></div>')).toEqual([])
  expect(pairs('<div style="background: linear-gradient(red, blue)"><p style="color: #ddd">x</p></div>')).toEqual([])
  expect(pairs('<div style="position: absolute"><p style="color: #ddd">Over others</p></div>')).toEqual([])
  expect(pairs('<div style="position: absolute; background: #fff"><p style="color: #ddd">x</p></div>')).toEqual(['#dddddd on #ffffff'])
}) // prettier-ignore

test('what is altered in ways that are not worked out is not judged, nor is anything in it', () => {
  const grey = '<p style="color: #999">x</p>'
  for (const style of ['filter: invert(1)', 'mix-blend-mode: difference', 'text-shadow: 0 0 3px #000', '-webkit-text-fill-color: #000', 'background-clip: text'])
    expect([style, pairs(`<div style="${style}">${grey}</div>`)]).toEqual([style, []])
  for (const style of ['filter: none', 'filter: blur(2px)', 'text-shadow: none', 'mix-blend-mode: normal'])
    expect([style, pairs(`<div style="${style}">${grey}</div>`)]).toEqual([style, ['#999999 on #ffffff']])
  expect(pairs('<div style="text-shadow: 0 0 3px #000"><p style="color: #999; text-shadow: none">x</p></div>')).toHaveLength(1)
}) // prettier-ignore

test('what nobody is shown is not judged', () => {
  const hidden = ['display: none', 'visibility: hidden', 'opacity: 0', 'position: absolute; left: -9999px', 'position: absolute; clip-path: inset(50%)', 'text-indent: -999em', 'font-size: 0'] // prettier-ignore
  for (const style of hidden) expect([style, poorIn(`<p style="color: #fefefe; ${style}">x</p>`)]).toEqual([style, []])
  expect(poorIn('<p hidden style="color: #eee">x</p><script>x</script><p style="color: #eee"> · — </p>')).toEqual([])
  expect(poorIn('<p style="color: #eee; visibility: hidden">x<b style="visibility: visible">y</b></p>')).toHaveLength(1)
}) // prettier-ignore

test('both sets are judged where there are two, and what is wrong in both is told once', () => {
  const css = ':root { color-scheme: light dark } a { color: #06c } @media (prefers-color-scheme: dark) { p { color: #345 } }'
  expect(pairs('<p>x</p> <a href="/">y</a>', css)).toEqual(['dark #334455 on #121212', 'dark #0066cc on #121212'])
  const same = '.q { background: #fff; color: #999 } @media (prefers-color-scheme: dark) { body { background: #111; color: #eee } }'
  expect(pairs('<p class="q">x</p>', same)).toEqual(['#999999 on #ffffff'])
  expect(pairs('<p>x</p>', 'p { color: light-dark(#333, #444); background: light-dark(#fff, #000) }', {}, '<meta name="color-scheme" content="light dark">')).toEqual(['dark #444444 on #000000'])
}) // prettier-ignore

test('pages of old, as browsers read them', () => {
  const of = (body: string) =>
    findPoorContrast({ html: body, path: 'a.htm', sheetAt: () => null }).map(({ text, ground }) => `${text} on ${ground}`)
  expect(of('<body bgcolor=FFFFCC text="#CCCC99">x')).toEqual(['#cccc99 on #ffffcc'])
  expect(of('<body bgcolor=white link=silver><a href=x>y</a><a name=z>w</a>')).toEqual(['#c0c0c0 on #ffffff'])
  expect(of('<table bgcolor=chucknorris><td><font color=red>x')).toEqual(['#ff0000 on #c00000'])
  // In quirks mode the letters of a table are those of the page, not those around it.
  expect(of('<div style="font-size: 40px; font-weight: bold; color: gray"><table><td style="color: #888">x')).toEqual(['#888888 on #ffffff'])
  expect(of('<style>.Foo { color: #999 }</style><p class=foo>x')).toEqual(['#999999 on #ffffff'])
}) // prettier-ignore

test('sheets are found as browsers find them; with one of another site nothing is judged', () => {
  const grey = 'p { color: #999 }'
  const link = (href: string, more = '') => `<link rel="stylesheet" href="${href}" ${more}>`
  expect(pairs('<p>x</p>', '', { 'visit/own.css': grey }, link('own.css'))).toHaveLength(1)
  expect(pairs('<p>x</p>', '@import "deep/a.css";', { 'deep/a.css': '@import url(b.css) screen;', 'deep/b.css': grey })).toHaveLength(1)
  expect(pairs('<p>x</p>', '@import "a.css" print;', { 'a.css': grey })).toEqual([])
  expect(pairs('<p>x</p>', '@import "site.css";', {})).toEqual([])
  expect(pairs('<p>x</p>', '', { 'p.css': grey }, link('/p.css', 'media="print"'))).toEqual([])
  expect(poorIn('<p>x</p>', '', { 'm.css': grey }, link('/m.css', 'media="(min-width: 30em)"'))[0]!.at).toMatchObject({ path: 'm.css', line: 1 })
  expect(pairs('<p>x</p>', '', { 'base/p.css': grey }, `<base href="/base/">${link('p.css')}`)).toHaveLength(1)
  expect(pairs('<p>x</p>', grey, {}, link('https://elsewhere.example/x.css'))).toEqual([])
  expect(pairs('<p>x</p>', `@import url(//fonts.elsewhere.example/css?family=A); ${grey}`, {}, link('https://elsewhere.example/fonts/a.css'))).toHaveLength(1)
  expect(pairs('<p>x</p>', `@import url(//elsewhere.example/x.css); ${grey}`)).toEqual([])
}) // prettier-ignore

test('the colour that is offered can be read there, whatever the two are', () => {
  const colour = fc
    .integer({ min: 0, max: 0xffffff })
    .map((value) => `#${value.toString(16).padStart(6, '0')}`)
  fc.assert(
    fc.property(colour, colour, (text, ground) => {
      const told = poorIn('<p>x</p>', `p { color: ${text}; background: ${ground} }`)
      const ratio = contrast(readColour(text)!, readColour(ground)!)
      if (ratio >= 4.5) return expect(told).toEqual([])
      if (ratio < 4.494) expect(told).toHaveLength(1)
      for (const { better } of told) {
        expect(contrast(readColour(better!)!, readColour(ground)!)).toBeGreaterThanOrEqual(4.5)
        expect(poorIn('<p>x</p>', `p { color: ${better}; background: ${ground} }`)).toEqual([])
      }
    }),
  )
})

test('any text as a style sheet or a page ends in an answer', () => {
  const piece = fc.constantFrom('{', '}', '&', '@media', '@layer a', '(', ')', 'p', ':is(', 'color', ':', ';', '#999', 'var(--a', '--a', '<p style="', '"', '>', '<table bgcolor=', 'x', '\\', '/*', '!important', ':nth-child(2n of p)', ':has(', '::x') // prettier-ignore
  const text = fc.array(piece, { maxLength: 30 }).map((parts) => parts.join(' '))
  fc.assert(fc.property(text, text, (css, body) => void poorIn(`<p>x</p>${body}`, css)))
  // Lists within lists, and sheets that import themselves, do not multiply.
  poorIn('<p>x</p>', `${'p,b,i { '.repeat(60)} color: #999 ${'}'.repeat(60)}`)
  poorIn('<p>x</p>', '@import "a.css";', { 'a.css': '@import "a.css";'.repeat(100) })
  const deep = poorIn(`${'<div style="opacity: .99; --a: 1">'.repeat(2_000)}x`, 'div { color: #999 }')
  expect(deep).toEqual([])
})
