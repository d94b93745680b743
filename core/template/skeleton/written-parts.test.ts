import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { applyEdits } from '#core/markup'
import { compileTemplate } from '../compile'
import { defaultTemplate } from '../default-template'
import {
  type PartKind,
  partEdit,
  partKinds,
  removePart,
  setPartAttributes,
  writtenParts,
} from './written-parts'

const put = (source: string, kind: PartKind, language = 'en') =>
  applyEdits(source, [partEdit(source, kind, language)!])
const namesIn = (source: string) => writtenParts(source).map(({ part }) => part.name)

describe('the parts of a template', () => {
  test('are read where they stand', () => {
    expect(writtenParts(defaultTemplate).map(({ part, line }) => [part.name, line])).toEqual([
      ['site-menu', 14],
      ['site-trail', 17],
      ['page-children', 20],
    ])
    expect(writtenParts('<p>[ <SITE-MENU Levels=2>x</SITE-MENU> ]<site-trail>y')[0]).toMatchObject({
      attributes: { levels: '2' },
      start: 5,
      end: 38,
    })
  })

  test('say something otherwise, and nothing else changes', () => {
    const menu = '<site-menu levels="1" own="mark" aria-label="Main">'
    const set = (values: Record<string, string | null>) => setPartAttributes(defaultTemplate, 0, values)
    expect(set({ levels: '2' })).toBe(defaultTemplate.replace(menu, menu.replace('1', '2')))
    expect(set({ own: null, levels: null, between: ' " ', as: 'nav' })).toBe(
      defaultTemplate.replace(menu, '<site-menu aria-label="Main" between=" &quot; " as="nav">'),
    )
    expect(setPartAttributes('<p><site-trail></site-trail>', 0, { own: 'omit', as: null })).toBe(
      '<p><site-trail own="omit"></site-trail>',
    )
    expect(set({})).toBe(defaultTemplate)
    expect(setPartAttributes('<site-menu  own="mark"\n></site-menu>', 0, { own: null, between: '|' })).toBe(
      '<site-menu between="|"\n></site-menu>',
    )
    expect(setPartAttributes(defaultTemplate, 7, { own: 'omit' })).toBe(defaultTemplate)
  })

  test('are put where they belong, and taken out with their line', () => {
    const of = (kind: PartKind) => put(defaultTemplate, kind).replace(defaultTemplate, '')
    expect(of('menu')).toContain(
      '<footer class="site-footer">\n      <site-menu levels="1" between=" | " as="nav" aria-label="Main, again"></site-menu>\n      <p>{site}</p>',
    )
    expect(of('section')).toContain('</site-menu>\n    <main id="content">')
    expect(of('trail')).toContain('<main id="content">\n      <site-trail aria-label="You are here"></site-trail>\n      <site-trail')
    expect(of('below')).toContain('<slot name="content"></slot>\n      <page-children levels="1"')
    expect(of('neighbours')).toContain('</page-children>\n      <page-neighbours aria-label="Before and after"></page-neighbours>\n    </main>')
    expect(of('languages')).toContain('</site-menu>\n      <page-languages missing="above" aria-label="Languages">')
    for (const [nth, kind] of partKinds.entries()) {
      const source = put(defaultTemplate, kind)
      const at = writtenParts(source).findIndex(({ start }) => start >= partEdit(defaultTemplate, kind, 'en')!.start)
      expect([nth, removePart(source, at)]).toEqual([nth, defaultTemplate])
    }
    expect(put(defaultTemplate, 'neighbours', 'de')).toContain('aria-label="Davor und danach"')
  }) // prettier-ignore

  test('are put somewhere in any template, and into none that shows pages whole', () => {
    expect(put('<body></body>', 'menu')).toBe(
      '<body>\n  <site-menu levels="1" aria-label="Main"></site-menu>\n</body>',
    )
    expect(put('<table><tr><td><slot></slot></td></tr></table>', 'trail')).toBe(
      '<table><tr><td><site-trail aria-label="You are here"></site-trail>\n<slot></slot></td></tr></table>',
    )
    // A paragraph holds no list: it goes beside it.
    expect(put('<body>\n<p>[ <site-menu between="|"></site-menu> ]</p>\n</body>', 'languages')).toBe(
      '<body>\n<p>[ <site-menu between="|"></site-menu> ]</p>\n<page-languages missing="above" aria-label="Languages"></page-languages>\n</body>',
    )
    expect(put('<template slot="side">\n  <p>x</p>\n</template>', 'neighbours')).toBe(
      '<template slot="side">\n  <p>x</p>\n  <page-neighbours aria-label="Before and after"></page-neighbours>\n</template>',
    )
    expect(put('<p>x', 'menu')).toBe('<p>x\n<site-menu levels="1" aria-label="Main"></site-menu>')
    for (const kind of partKinds) expect(partEdit(' <slot></slot>\n', kind, 'en')).toBeNull()
  })

  test('whatever the template is, one more is read, and it goes again', () => {
    const piece = fc.constantFrom(
      '<body>', '</body>', '<main>', '</main>\n', '<header>', '</header>', '\n  ', '<p>x</p>', '<slot></slot>', '<template slot="a">',
      '</template>', '<site-menu></site-menu>', '<site-trail>', '<table>', '<td>', '<footer class=a>', '</footer>', '<!-- x -->', '{page}',
    ) // prettier-ignore
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 14 }), fc.constantFrom(...partKinds), (pieces, kind) => {
        const source = pieces.join('')
        const edit = partEdit(source, kind, 'en')
        if (!edit) return
        const after = applyEdits(source, [edit])
        expect(namesIn(after)).toHaveLength(namesIn(source).length + 1)
        expect(compileTemplate(after).generated).toHaveLength(compileTemplate(source).generated.length + 1)
        const own = writtenParts(after).findIndex(({ start }) => start >= edit.start)
        expect(removePart(after, own).replace(/\s+/g, '')).toBe(source.replace(/\s+/g, ''))
      }),
    )
  })
})
