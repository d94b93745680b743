import { expect, test } from '@jest/globals'
import { namesOf } from '#core/naming'
import { treeOf } from '#core/plan'
import { bring } from '../testing/bringing'
import { change, TextStore } from '#core/testing'

/** Pages that lead to each other, by their files and what they are called. */
const filesOf = (pages: Readonly<Record<string, string>>) =>
  Object.fromEntries(
    Object.entries({ 'index.html': 'Home', ...pages }).map(([path, label]) => [
      path,
      `<!DOCTYPE html>\n<html lang="en">\n<head><title>${label}</title></head>\n<body><h1>${label}</h1><p>Of ${label}.</p></body>\n</html>\n`,
    ]),
  )

/** Where a page is put that is added to a site with those. */
function addedTo(pages: Readonly<Record<string, string>>, label: string): string {
  const store = new TextStore()
  const { site } = bring(filesOf(pages), store)
  // What is there stays where it is, whatever the scheme is.
  for (const path of Object.keys(pages)) expect(namesOf(site).byPath.has(path)).toBe(true)
  const added = change(site, store, { kind: 'addPages', pages: [{ id: 'new', label }], parentId: null, after: null, content: store.put('') }) // prettier-ignore
  expect(treeOf(added).byId.has('new')).toBe(true)
  return namesOf(added).pages.get('new')!.path
}

test('pages keep the ending that each has, and stand where they stood', () => {
  const pages = { 'KURSE.HTM': 'Kurse', 'boats.html': 'Boats', 'times.htm': 'Times', 'club/history.htm': 'History', 'club/notes.shtml': 'Notes' }
  for (const home of ['index.html', 'index.htm']) {
    const { [`index.html`]: text, ...others } = filesOf(pages)
    const { site } = bring({ [home]: text!, ...others }, new TextStore())
    expect([...namesOf(site).byPath.keys()].sort()).toEqual([...Object.keys(pages), home].sort())
    expect(site.pages.flatMap(({ addresses }) => addresses)).toEqual([])
  }
}) // prettier-ignore

test.each([
  ['small letters and hyphens', { 'opening-times.html': 'Opening times', 'visit.html': 'Visit' }, 'old-cafe.html'],
  ['underscores', { 'opening_times.html': 'Opening times', 'our_birds.html': 'Our birds', 'a-z.html': 'A to Z' }, 'old_cafe.html'],
  ['words that stand together', { 'openingtimes.html': 'Opening times', 'ourbirds.html': 'Our birds', 'visit.html': 'Visit' }, 'oldcafe.html'],
  ['capitals', { 'OpeningTimes.html': 'Opening Times', 'OurBirds.html': 'Our Birds', 'Visit.html': 'Visit' }, 'OldCafe.html'],
  ['one name in capitals beside many', { 'README.html': 'Read me', ...Object.fromEntries(['a', 'b', 'c', 'd', 'e'].map((name) => [`${name}-page.html`, `${name} page`])) }, 'old-cafe.html'],
  ['letters outside ASCII', { 'café.html': 'Café', 'öl.html': 'Öl' }, 'old-café.html'],
  ['nothing that tells', { '2019.html': '2019' }, 'old-cafe.html'],
])('pages to come are named as those with %s are', (_, pages, path) => {
  expect(addedTo(pages, 'Old Café')).toBe(path)
}) // prettier-ignore
