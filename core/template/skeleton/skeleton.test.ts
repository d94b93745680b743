import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { anySign } from '../../testing/signs'
import { defaultTemplate } from '../default-template'
import { readSkeleton } from './read-skeleton'
import { fitsPhones, type SkeletonChange, writeSkeleton } from './write-skeleton'

describe('the skeleton of a template', () => {
  test('is read from its source, whoever wrote it and however', () => {
    expect(readSkeleton(defaultTemplate)).toMatchObject({
      isDocument: true, hasDoctype: true, language: '{language}', charset: 'utf-8', viewport: fitsPhones, title: '{title}',
      description: '{description}', address: null, translations: null, author: null, icon: null, styleSheets: ['/styles/site.css'], scripts: [],
    }) // prettier-ignore
    const old =
      '<HTML><HEAD><META CHARSET=windows-1252><TITLE>x</TITLE><LINK REL="alternate stylesheet" HREF=b.css><LINK REL=StyleSheet HREF=a.css><SCRIPT SRC=a.js></SCRIPT></HEAD><script type=module src=b.js></script>'
    expect(readSkeleton(old)).toMatchObject({
      isDocument: true, hasDoctype: false, language: null, charset: 'windows-1252', styleSheets: ['a.css'],
      scripts: [{ href: 'a.js', runs: 'at once' }, { href: 'b.js', runs: 'module' }],
    }) // prettier-ignore
    expect(readSkeleton('<template slot="content"><p></p></template>').isDocument).toBe(false)
    const with4 = (id: string) => readSkeleton(`<!DOCTYPE HTML PUBLIC ${id}><html></html>`)
    expect(with4('"-//W3C//DTD HTML 3.2//EN"')).toMatchObject({ hasDoctype: true, isQuirky: true })
    expect(with4('"-//W3C//DTD HTML 4.01//EN"').isQuirky).toBe(false)
    expect([readSkeleton(defaultTemplate), readSkeleton(old)].map(({ isQuirky }) => isQuirky)).toEqual([
      false,
      false,
    ])
  })

  test('says something new where a tidy head has it', () => {
    const written = writeSkeleton(defaultTemplate, { part: 'author', value: 'Keepers & “friends”' })
    expect(written).toContain(
      '<meta name="description" content="{description}">\n    <meta name="author" content="Keepers &amp; “friends”">\n    <link rel="stylesheet"',
    )
    expect(writeSkeleton(written, { part: 'author', value: null })).toBe(defaultTemplate)
    const scripts = [{ href: '/scripts/a.js', runs: 'deferred' }, { href: '/scripts/b.js', runs: 'module' }] as const // prettier-ignore
    expect(writeSkeleton(defaultTemplate, { part: 'scripts', value: scripts })).toContain(
      '<link rel="stylesheet" href="/styles/site.css">\n    <script src="/scripts/a.js" defer></script>\n    <script src="/scripts/b.js" type="module"></script>\n  </head>',
    )
  })

  test('changes nothing but what it was asked for: others of its kind stay as they were written', () => {
    const source = '<head>\n  <link media=print rel=stylesheet href="p.css"><!-- print -->\n  <link href=a.css rel=stylesheet>\n  <title>x</title>\n</head>' // prettier-ignore
    expect(writeSkeleton(source, { part: 'styleSheets', value: ['a.css', 'p.css', 'c.css'] })).toBe(
      '<head>\n  <link href=a.css rel=stylesheet>\n  <link media=print rel=stylesheet href="p.css">\n  <link rel="stylesheet" href="c.css"><!-- print -->\n  <title>x</title>\n</head>',
    )
    expect(writeSkeleton(source, { part: 'styleSheets', value: [] })).toBe(
      '<head>\n  <!-- print -->\n  <title>x</title>\n</head>',
    )
    expect(writeSkeleton('<html class=a>', { part: 'language', value: 'gd' })).toBe(
      '<html lang="gd" class=a>',
    )
    expect(
      writeSkeleton('<!-- x -->\n<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 3.2//EN">\n<p>x', {
        part: 'doctype',
      }),
    ).toBe('<!-- x -->\n<!DOCTYPE html>\n<p>x')
    // The older way of saying it counts, and gives way to the newer.
    const older = '<head><META HTTP-EQUIV=Content-Type CONTENT="text/html; charset=ISO-8859-1"></head>'
    expect(readSkeleton(older).charset).toBe('ISO-8859-1')
    expect(writeSkeleton(older, { part: 'charset', value: 'utf-8' })).toBe(
      '<head><meta charset="utf-8"></head>',
    )
    expect(writeSkeleton('<p>x', { part: 'charset', value: 'utf-8' })).toBe('<meta charset="utf-8">\n<p>x')
    expect(writeSkeleton('<p>x', { part: 'doctype' })).toBe('<!DOCTYPE html>\n<p>x')
  })

  test('says what was asked for, in any text, and nothing else otherwise', () => {
    const pieces = fc.constantFrom(
      '<head>', '</head>', '<meta charset="utf-8">', '<meta name=author content=x>', '<title>t</title>',
      '<link rel=icon href=i.png>', '<link rel="stylesheet" href="a.css">', '<script src="a.js" defer></script>', '<body>', '<p>x</p>', '\n', '  ', '<!-- c -->',
    ) // prettier-ignore
    const changes: fc.Arbitrary<SkeletonChange> = fc.oneof(
      fc.record({ part: fc.constantFrom('charset' as const, 'viewport' as const, 'description' as const, 'address' as const, 'translations' as const, 'author' as const, 'icon' as const), value: fc.option(fc.string({ unit: anySign }).filter((text) => !/[\0\r]/.test(text) && text === text.toWellFormed())) }),
      fc.record({ part: fc.constant('styleSheets' as const), value: fc.uniqueArray(fc.constantFrom('a.css', 'b.css', 'c d.css'), { maxLength: 3 }) }),
      fc.record({ part: fc.constant('scripts' as const), value: fc.uniqueArray(fc.record({ href: fc.constantFrom('a.js', 'b.js'), runs: fc.constantFrom('deferred' as const, 'at once' as const, 'module' as const) }, { noNullPrototype: true }), { maxLength: 3, selector: ({ href }) => href }) }),
    ) // prettier-ignore
    const said = (source: string) => {
      const { elements: _, headStart: __, html: ___, isDocument: ____, ...skeleton } = readSkeleton(source)
      return skeleton
    }
    fc.assert(
      // A doctype or an html tag anywhere else is none, until what stands before it goes.
      fc.property(
        fc.constantFrom('', '<!DOCTYPE html>'),
        fc.array(pieces, { maxLength: 14 }),
        changes,
        (begin, words, change) => {
          const source = begin + words.join('')
          const after = writeSkeleton(source, change)
          if (change.part === 'doctype' || change.part === 'language') return
          expect(said(after)).toEqual({ ...said(source), [change.part]: change.value })
          expect(writeSkeleton(after, change)).toBe(after)
        },
      ),
      { numRuns: 300 },
    )
  })
})
