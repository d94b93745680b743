import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { newSite, rewritesOfNewSite, withRewritten } from '#core/change'
import { applyEdits } from '#core/markup'
import { namesOf } from '#core/naming'
import { planSite, readOutline, writeOutline } from '#core/plan'
import { checkSite, type Site } from '#core/site'
import {
  brokenReferences,
  buildAll,
  change,
  outlines,
  schemes,
  siteFrom,
  sites,
  testId,
  TextStore,
} from '#core/testing'
import { faultOfKit, type Kit, kitOfSite } from './index'

const said = { name: 'For the class', about: 'Short names' }
function siteWith(kit: Kit, store: TextStore, plan: string, scheme = kit.scheme): Site {
  const site = newSite({
    id: testId(),
    name: 'Another',
    language: 'en',
    kit,
    scheme,
    plan: planSite(readOutline(plan), 'Another'),
    newId: testId,
    emptyContent: store.put(''),
  })
  return withRewritten(
    site,
    rewritesOfNewSite(site, kit, store).map(({ owner, hash, edits }) => {
      const text = applyEdits(store.textOf(hash), edits)
      return { owner, hash: store.put(text), sizeBytes: text.length }
    }),
  )
}

describe('a kit', () => {
  test('of a site is its scheme, templates, style sheets and what those show, and nothing of its pages', () => {
    const store = new TextStore()
    let site = siteFrom('Home\n  Visit', store)
    const picture = { id: testId(), label: 'Rose window.PNG', hash: store.put('png'), sizeBytes: 3 }
    const unused = { id: testId(), label: 'Pier.png', hash: store.put('other'), sizeBytes: 5 }
    for (const { id, ...file } of [unused, picture])
      site = change(site, store, { kind: 'addFile', fileKind: 'image', id, ...file })
    site = change(site, store, {
      kind: 'addTemplate',
      templateId: testId(),
      name: 'With a side',
      source: store.put('<template slot="content"><img src="/images/rose-window.png" alt=""><slot name="content"></slot></template>'),
      basedOn: site.templateId,
    }) // prettier-ignore
    const kit = kitOfSite(site, said, (id) => id === picture.id)
    expect(kit).toMatchObject({
      ...said,
      template: 'Shared template',
      templates: [{ name: 'Shared template', basedOn: null }, { name: 'With a side', basedOn: 'Shared template' }],
      files: [{ path: 'styles/site.css', kind: 'style' }, { path: 'images/rose-window.png', kind: 'image' }],
    }) // prettier-ignore
    expect(faultOfKit(kit)).toBeNull()

    const next = siteWith(kit, store, 'Home\n  Visit\n    Getting here')
    expect(checkSite(next)).toEqual([])
    expect(next.pages.map(({ label }) => label)).toEqual(['Home', 'Visit', 'Getting here'])
    expect(next.templates[1]!.basedOn).toBe(next.templates[0]!.id)
    expect(next.templates[1]!.id).not.toBe(site.templates[1]!.id)
    expect([...namesOf(next).files.values()]).toEqual(['styles/site.css', 'images/rose-window.png'])
    expect(brokenReferences(buildAll(next, store))).toEqual([])
  })

  test('of any site makes sites under any scheme in which nothing of the kit leads nowhere', () => {
    fc.assert(
      fc.property(sites, outlines, fc.option(schemes), (make, outline, scheme) => {
        const store = new TextStore()
        const kit = kitOfSite(make(store), said, () => true)
        const fault = faultOfKit(kit)
        // What has lost words or been shortened already may be named anew by its own name; that is told.
        if (fault !== null) return expect(fault).toContain('its scheme puts that one at')
        const next = siteWith(kit, store, writeOutline(outline), scheme ?? kit.scheme)
        expect(checkSite(next)).toEqual([])
        expect(brokenReferences(buildAll(next, store))).toEqual([])
      }),
      { numRuns: 60 },
    )
  })

  test('that no site could begin with is told what is wrong', () => {
    const store = new TextStore()
    const kit = kitOfSite(siteFrom('Home', store), said, () => false)
    const [template] = kit.templates
    const faults: [Partial<Kit>, string][] = [
      [{ template: 'Other' }, '“Other”'],
      [{ templates: [template!, template!] }, 'Two of its templates'],
      [{ templates: [{ ...template!, basedOn: 'Gone' }] }, '“Gone”'],
      [{ templates: [{ ...template!, basedOn: template!.name }] }, 'circle'],
      [{ files: [{ ...kit.files[0]!, path: 'css/site.css' }] }, '“styles/site.css”'],
    ]
    for (const [part, words] of faults) expect(faultOfKit({ ...kit, ...part })).toContain(words)
  })
})
