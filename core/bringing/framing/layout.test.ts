import { describe, expect, test } from '@jest/globals'
import { pageCalled, TextStore, buildAll } from '#core/testing'
import { bring } from '../../testing/bringing'

/** A page as it was laid out with tables; tags that may be left out are. */
const page = (
  title: string,
  body: string,
  side = '<P><A HREF="index.htm">Home</A><BR><A HREF="times.htm">Times</A>',
) =>
  `<HTML><HEAD><TITLE>${title}</TITLE></HEAD>
<BODY BGCOLOR=white>
<TABLE WIDTH="100%" BORDER=0>
<TR><TD COLSPAN=2 BGCOLOR=navy><B>Gannet Row Ferries</B>
<TR><TD WIDTH=150>${side}<TD>
<H1>${title}</H1>
${body}
<TR><TD COLSPAN=2><HR>Write to the keeper.
</TABLE>
</BODY></HTML>
`
const facts = (length: string, year: string) =>
  `<TABLE BORDER=1><TR><TH>Length</TH><TD>${length}</TD></TR><TR><TH>Built</TH><TD>${year}</TD></TR></TABLE>`
const site = {
  'index.htm': page('Home', '<P>Across the sound since long.'),
  'times.htm': page('Times', '<P>At nine and at four.'),
  'tern.htm': page('The Tern', facts('12 m', '1931')),
  'gull.htm': page('The Gull', facts('14 m', '1938')),
}

describe('pages laid out by a table', () => {
  test('share it as their template, with a slot in the cell that is each page’s own', () => {
    const store = new TextStore()
    const { site: made, templates } = bring(site, store)
    expect(templates.map(({ pageIds }) => pageIds.length)).toEqual([4])
    const source = store.textOf(made.templates[0]!.source)
    expect(source).toContain('Gannet Row Ferries')
    expect(source).toContain('<H1>{page}</H1>\n<slot name="content"></slot>\n<TR><TD COLSPAN=2><HR>')
    // A table of facts is what a page says: one thing.
    expect(store.textOf(pageCalled(made, 'The Gull').content)).toBe(facts('14 m', '1938'))
    // The menu follows the plan from now on; all else is to the letter as it was.
    expect(source).toContain(
      '<TD WIDTH=150><P><site-menu levels="1" own="mark" home="first" between="&lt;br&gt;"></site-menu><TD>',
    )
    const built = buildAll(made, store)
    const unmade = (text: string) => text.replace(/<P><A HREF.*<\/A><TD>|<P><a .*<\/a><TD>/, '')
    for (const [path, text] of Object.entries(site)) expect(unmade(built.get(path)!)).toBe(unmade(text))
  })

  test('with cells that differ in two places have a slot in each', () => {
    const store = new TextStore()
    const own = {
      ...site,
      'tern.htm': page('The Tern', facts('12 m', '1931'), '<P>The Tern is <B>here</B>.'),
    }
    const { site: made, templates } = bring(own, store)
    expect(templates.map(({ pageIds }) => pageIds.length)).toEqual([4])
    const source = store.textOf(made.templates[0]!.source)
    expect(source).toMatch(/<TD WIDTH=150><slot name="td">.*\n?.*<TD>\n<H1>\{page\}/)
    const built = buildAll(made, store)
    for (const [path, text] of Object.entries(own)) expect(built.get(path)).toBe(text)
  })

  test('are looked into through tables around tables, and where every cell differs', () => {
    const store = new TextStore()
    const around = (title: string, body: string) =>
      page(title, body, `<P><B>${title}</B><P><A HREF="index.htm">Home</A>`)
        .replace('<TABLE WIDTH', '<CENTER><TABLE BGCOLOR=black><TR><TD><TABLE WIDTH')
        .replace('<B>Gannet Row Ferries</B>', `<B>Gannet Row Ferries: ${title}</B>`)
        .replace('Write to the keeper', `Write of ${title} to the keeper`)
        .replace('</TABLE>\n', '</TABLE></TD></TR></TABLE></CENTER>\n')
    const pages = {
      'index.htm': around('Home', '<P>Welcome to the ferries across the sound, which sail since long.'),
      'a.htm': around(
        'Boats',
        '<P>One of them is called the Tern.<P>The other one is the Gull, and she is older.',
      ),
    }
    const { site: made, templates } = bring(pages, store)
    expect(templates.map(({ pageIds }) => pageIds.length)).toEqual([2])
    expect(store.textOf(made.templates[0]!.source)).toContain('<H1>{page}</H1>\n<slot name="content"></slot>')
    const built = buildAll(made, store)
    for (const [path, text] of Object.entries(pages)) expect(built.get(path)).toBe(text)
  })

  test('with other rows or cells are no less whole', () => {
    const store = new TextStore()
    const other = {
      ...site,
      'wide.htm': page('Wide', '<P>Wide.').replace('<TR><TD WIDTH=150>', '<TR><TD>More<TR><TD WIDTH=150>'),
      'said.htm': page('Said', '<P>Said.').replace('</TABLE>', '<!-- said --></TABLE>'),
    }
    const built = buildAll(bring(other, store).site, store)
    for (const [path, text] of Object.entries(other)) expect(built.get(path)).toBe(text)
  })
})

test('pages that say their facts in tables, each its own, keep them together', () => {
  const store = new TextStore()
  const plain = (title: string, ...some: [string, string]) =>
    `<html><head><title>${title}</title></head><body><div id="top">Ferries</div>\n${facts(...some)}\n</body></html>\n`
  const { site: made } = bring(
    {
      'index.html': plain('Home', '1 m', '1901'),
      'a.html': plain('A', '2 m', '1902'),
      'b.html': plain('B', '3 m', '1903'),
    },
    store,
  )
  expect(store.textOf(pageCalled(made, 'B').content)).toBe(facts('3 m', '1903'))
})
