import { expect, test } from '@jest/globals'
import { findPoorContrast } from '#core/colours'
import { faultsInText } from '#core/findings'
import { fileSyntaxOf, findTagFaults, readHtml, readStyle } from '#core/markup'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { cleanHtml, htmlOfPlain, plainTextIn } from '#core/texts'
import { buildAll, change, pageCalled, siteFrom, TextStore, write } from './index'

/** What every object has, and no table of ours means when an author writes it. */
const names = ['constructor', '__proto__', 'toString', 'hasOwnProperty', 'valueOf', '__defineGetter__']
const html = names
  .map(
    (
      name,
    ) => `<${name} href="a.html" ${name}="b.html" id="${name}" class="${name}" style="${name}: red; font-size: ${name}; color: var(--${name})" lang="${name}">
<p ${name}=1 onclick="${name}('a.html')">z <a href="/${name}/">{${name}}</a></p><img src="x.${name}" ${name}=x alt=""><input type=${name}>
<site-${name}></site-${name}><site-menu ${name}=2></site-menu><svg><${name} href=x></${name}></svg></${name}>`,
  )
  .join('\n')
const css = names
  .map(
    (
      name,
    ) => `@${name} x { ${name}: ${name}(1) } .${name}:${name}(a) { ${name}: red; font-size: ${name}; --${name}: var(--${name}) }
@layer ${name}; @media (${name}: 1px) { a { color: ${name}(1 2 3); width: 3${name} } } [${name}=${name}] { display: ${name} }`,
  )
  .join('\n')

test('names that every object has are as unknown as any other, whatever is called so', () => {
  expect(readHtml(html).references.length).toBeGreaterThan(names.length)
  expect(readHtml(`<!doctype html><html><body>${html}`, true).ids).toEqual(
    names.filter((name) => !name.startsWith('_')),
  )
  expect(() => [
    readStyle(css),
    findTagFaults(html),
    htmlOfPlain(html, 'paragraphs'),
    plainTextIn(html),
  ]).not.toThrow()
  expect(cleanHtml(html)).not.toMatch(/constructor=|<constructor/)
  expect(names.map((name) => fileSyntaxOf(`a.${name}`, 1))).toEqual(names.map(() => null))
  for (const as of ['html', 'css', 'template'] as const)
    expect(() => faultsInText(as === 'css' ? css : html, as)).not.toThrow()
  const page = `<!doctype html><style>${css}</style>${html}`
  expect(() => findPoorContrast({ html: page, path: 'a.html', sheets: new Map() } as never)).not.toThrow()
  for (const language of ['valueOf', 'constructor'])
    expect(nameLabel('Fähre & Straße', defaultScheme, language).name).toBe(nameLabel('Fähre & Straße', defaultScheme, 'xx').name) // prettier-ignore
})

test('a site of such names is built', () => {
  const store = new TextStore()
  const plain = siteFrom(names.join('\n'), store)
  const slots = names.map((name) => `<slot name="${name}">none</slot>`).join('\n')
  const [template] = plain.templates
  const source = store.put(store.textOf(template!.source).replace('<slot', `${slots}\n<slot`))
  const framed = change(plain, store, {
    kind: 'setTemplate',
    templateId: template!.id,
    source,
    was: template!.source,
  })
  // As sites of before may have it: nobody can say it today.
  const spoken = { ...framed, language: 'valueOf' }
  const site = names.reduce((one, name) => write(one, store, name, html), spoken)
  const filled = change(site, store, { kind: 'setContent', pageId: pageCalled(site, 'toString').id, slot: '__proto__', content: store.put('<b>here</b>'), was: store.put('') }) // prettier-ignore
  const built = [...buildAll(filled, store)].filter(([path]) => path.endsWith('.html'))
  expect(built.filter(([, text]) => text.includes('<b>here</b>')).map(([path]) => path)).toEqual([
    'tostring.html',
  ])
  expect(built.map(([, text]) => (text.match(/none/g) ?? []).length).sort()).toEqual([5, 6, 6, 6, 6, 6, 6])
})
