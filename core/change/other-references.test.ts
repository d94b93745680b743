import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { mergePath } from '#core/links'
import { readHtml } from '#core/markup'
import { namesOf } from '#core/naming'
import { defaultScheme, type FileKind, type Scheme, type Site } from '#core/site'
import { bring } from '../testing/bringing'
import { brokenReferences, buildAll, change, pageCalled, siteFrom, TextStore } from '#core/testing'

/** A site with files that are no style sheets and name pages and one another. */
function siteWith(files: Record<string, string>, store: TextStore): Site {
  const plain = siteFrom('Home\n  Birds\n    Terns\n  Visit', store)
  const kinds: Record<string, FileKind> = { js: 'script', mjs: 'script', svg: 'image', png: 'image', json: 'document', webmanifest: 'other' } // prettier-ignore
  const made = Object.entries(files).map(([label, text], index) => ({
    id: `file-${label}`,
    kind: kinds[label.replace(/.*\./, '')]!,
    label,
    seq: plain.nextSeq + index,
    hash: store.put(text),
    sizeBytes: text.length,
  }))
  return { ...plain, nextSeq: plain.nextSeq + made.length, files: [...plain.files, ...made] }
}
const scheme = (folders: Partial<Scheme['folders']>, more: Partial<Scheme> = {}): Scheme => ({
  ...defaultScheme,
  ...more,
  folders: { ...defaultScheme.folders, ...folders },
})
const underScheme = (site: Site, store: TextStore, to: Scheme) =>
  change(site, store, { kind: 'setScheme', scheme: to, was: site.scheme })
const textOf = (site: Site, store: TextStore, label: string) =>
  store.textOf(site.files.find((file) => file.label === label)!.hash)

describe('references in files that are no style sheets', () => {
  const files = {
    'app.js': `import { draw } from './draw.mjs'\nbig.src = '../images/tern.png'; go("birds/terns.html#top"); say('x' + '/images/tern.png')`,
    'draw.mjs': `export const draw = new URL('../images/tern.png', import.meta.url)`,
    'tern.png': 'PNG',
    'chart.svg': `<svg><image href="tern.png"/><a href="/visit.html">x</a></svg>`,
    'list.json': '["images/tern.png", "nothing.png", "/birds/"]',
    'site.webmanifest': '{"start_url": "/birds/", "icons": [{"src": "../images/tern.png"}]}',
  }

  test('follow what they lead to, each as it is understood: from the file, from the page that runs it, from the top', () => {
    const store = new TextStore()
    const site = siteWith(files, store)
    const after = underScheme(site, store, scheme({ image: 'pictures', script: '' }, { extension: '.htm' }))
    expect(textOf(after, store, 'app.js')).toBe(
      `import { draw } from './draw.mjs'\nbig.src = '../pictures/tern.png'; go("birds/terns.htm#top"); say('x' + '/images/tern.png')`,
    )
    expect(textOf(after, store, 'draw.mjs')).toBe(
      `export const draw = new URL('pictures/tern.png', import.meta.url)`,
    )
    expect(textOf(after, store, 'chart.svg')).toBe(
      '<svg><image href="tern.png"/><a href="/visit.htm">x</a></svg>',
    )
    expect(textOf(after, store, 'list.json')).toBe('["pictures/tern.png", "nothing.png", "/birds/"]')
    expect(textOf(after, store, 'site.webmanifest')).toBe(
      '{"start_url": "/birds/", "icons": [{"src": "../pictures/tern.png"}]}',
    )
  })

  test('stay to the byte where nothing moved that they name', () => {
    const store = new TextStore()
    const site = siteWith(files, store)
    const after = underScheme(site, store, scheme({ style: 'css' }))
    expect(after.files.filter(({ kind }) => kind !== 'style')).toEqual(
      site.files.filter(({ kind }) => kind !== 'style'),
    )
  })

  test('lead where they led after any changes of scheme', () => {
    const folder = fc.constantFrom('', 'a', 'a/b', 'scripts', 'x y')
    const schemes = fc.record({
      image: folder,
      script: folder,
      document: folder,
      other: folder,
      extension: fc.constantFrom('.html' as const, '.htm' as const),
    })
    fc.assert(
      fc.property(fc.array(schemes, { minLength: 1, maxLength: 4 }), (sequence) => {
        const store = new TextStore()
        let site = siteWith(files, store)
        for (const { extension, ...folders } of sequence)
          site = underScheme(site, store, scheme(folders, { extension }))
        const names = namesOf(site)
        const at = (label: string) => names.files.get(`file-${label}`)!
        const leads = (from: string, pattern: RegExp) => {
          const href = decodeURIComponent(pattern.exec(textOf(site, store, from))![1]!)
          return mergePath(at(from).slice(0, at(from).lastIndexOf('/') + 1), href)
        }
        expect(leads('app.js', /from '(.*?)'/)).toBe(at('draw.mjs'))
        expect(leads('draw.mjs', /URL\('(.*?)'/)).toBe(at('tern.png'))
        expect(leads('chart.svg', /image href="(.*?)"/)).toBe(at('tern.png'))
        expect(leads('site.webmanifest', /src": "(.*?)"/)).toBe(at('tern.png'))
        // From the page that runs it, one step below the top.
        const shown = /src = '(.*?)'/.exec(textOf(site, store, 'app.js'))![1]!
        expect(mergePath('birds/', decodeURIComponent(shown))).toBe(at('tern.png'))
      }),
    )
  })
})

test('a page’s own scripts, handlers and jump menus follow what they name, and comparisons stay', () => {
  const store = new TextStore()
  const site = siteWith({ 'tern.png': 'PNG' }, store)
  const birds = pageCalled(site, 'Birds')
  const html = `<img src="../images/tern.png" onmouseover="this.src='../images/tern.png'" data-large="../images/tern.png">
<select onchange="location = value"><option value="terns.html">Terns</option><option value="Terns">x</option></select>
<script>if (location.pathname === '/visit.html') show('../visit.html')</script>`
  const written = change(site, store, {
    kind: 'setContent',
    pageId: birds.id,
    content: store.put(html),
    was: birds.content,
  })
  const visit = pageCalled(written, 'Visit')
  const renamed = change(written, store, { kind: 'setPageText', pageId: visit.id, field: 'label', value: 'Getting here', was: 'Visit' }) // prettier-ignore
  const after = underScheme(renamed, store, scheme({ image: 'pictures' }, { extension: '.htm' }))
  const made = html
    .replaceAll('images/', 'pictures/')
    .replace('terns.html', 'terns.htm')
    .replace("'../visit.html'", "'../getting-here.htm'")
  expect(store.textOf(pageCalled(after, 'Birds').content)).toBe(made)
  expect(buildAll(after, store).get('birds/index.htm')).toContain(`show('../getting-here.htm')`)
})

describe('brought in', () => {
  const page = (
    name: string,
    up: string,
  ) => `<html><head><title>${name}</title><script>pre = new Image(); pre.src = "${up}img/Over.gif"</script></head>
<body background="${up}img/Sea.gif"><div id="top"><a href="${up}index.html" onmouseover="b.src='${up}img/Over.gif'"><img name="b" src="${up}img/Out.gif" alt="Home"></a></div>
<div id="main"><h1>${name}</h1><p>${name} is here.</p></div>
<script src="${up}js/Menu.js"></script></body></html>\n`
  const files = {
    'index.html': page('Home', ''),
    'birds/index.html': page('Birds', '../'),
    'birds/terns.html': page('Terns', '../'),
    'visit.html': page('Visit', ''),
    'img/Over.gif': 'GIF89a over',
    'img/Out.gif': 'GIF89a out',
    'img/Sea.gif': 'GIF89a sea',
    'js/Menu.js': "preload('img/Over.gif', 'missing.gif')",
  }

  test('pages whose frames differ in the steps of their scripts alone share one template', () => {
    const store = new TextStore()
    const { site, templates } = bring(files, store)
    expect(templates.map(({ pageIds }) => pageIds.length)).toEqual([4])
    const built = buildAll(site, store)
    for (const [path, text] of Object.entries(files)) expect(built.get(path)).toBe(text)
  })

  test('under a scheme that moves files, everything that names them follows', () => {
    const store = new TextStore()
    const { site } = bring(files, store, { scheme: defaultScheme, lifts: true, generates: true })
    const built = buildAll(site, store)
    expect(brokenReferences(built)).toEqual([])
    expect(built.get('scripts/menu.js')).toBe("preload('images/over.gif', 'missing.gif')")
    const named = readHtml(built.get('birds/terns.html')!, true).references.map(({ href }) => href)
    expect(named.filter((href) => href === '../images/over.gif')).toHaveLength(2)
    expect(named).toContain('../images/sea.gif')
  })
})

test('settings of a host follow what they show and send on to', () => {
  const page = (label: string) =>
    `<!DOCTYPE html>\n<html lang="en"><head><title>${label}</title></head><body><p><a href="Birds.htm">Birds</a> ${label}</p></body></html>\n`
  const settings =
    'ErrorDocument 404 /Lost.htm\nRedirect 301 /old.htm /Birds.htm#terns\nRewriteRule ^b$ Birds.htm [L]\nErrorDocument 410 /none.htm\nRedirect 301 /x /elsewhere/y.htm\n'
  const store = new TextStore()
  const files = {
    'index.htm': page('Home'),
    'Birds.htm': page('Birds'),
    'Lost.htm': page('Lost'),
    '.htaccess': settings,
  }
  expect(buildAll(bring(files, store).site, store).get('.htaccess')).toBe(settings)
  const { site } = bring(files, store, { scheme: defaultScheme, lifts: true, generates: true })
  const followed = settings.replaceAll('Birds.htm', 'birds.html').replace('/Lost.htm', '/lost.html')
  expect(buildAll(site, store).get('.htaccess')).toBe(followed)
  // And later, when a page is called otherwise.
  const birds = pageCalled(site, 'Birds')
  const renamed = change(site, store, {
    kind: 'setPageText',
    pageId: birds.id,
    field: 'ownName',
    value: 'terns',
    was: null,
  })
  expect(buildAll(renamed, store).get('.htaccess')).toBe(followed.replaceAll('birds.html', 'terns.html'))
})

test('a file that is asked for by its name is added where it is asked for, and any other where the scheme has it', () => {
  const store = new TextStore()
  const added = ['robots.txt', 'favicon.ico', '.htaccess', 'tern.ico'].reduce(
    (site, label) => change(site, store, { kind: 'addFile', id: label, fileKind: 'other', label, hash: store.put(label), sizeBytes: label.length }), // prettier-ignore
    siteWith({}, store),
  )
  const { files } = namesOf(added)
  expect(['robots.txt', 'favicon.ico', '.htaccess', 'tern.ico'].map((id) => files.get(id))).toEqual([
    'robots.txt',
    'favicon.ico',
    '.htaccess',
    'files/tern.ico',
  ])
})
