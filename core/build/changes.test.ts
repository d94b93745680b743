import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { type Change, planEdit, plannedFrom, untranslatedFrom } from '#core/change'
import { mergePath, relativeReference, resolveReference, splitReference } from '#core/links'
import { namesOf, trialFolder } from '#core/naming'
import { branchOf, matchPlan, originalOf, outlineOfSite, realPlaces, treeOf } from '#core/plan'
import { applyDiff, diffSites, type Page, reverseDiff, type Scheme, type Site } from '#core/site'
import { homeFileOf } from '#core/template'
import {
  brokenReferences,
  buildAll,
  change,
  editWhole,
  labels,
  schemes,
  sites,
  testId,
  TextStore,
} from '#core/testing'

/** Fills every page with links to every real one, in both ways of writing them, and the style sheet with a picture. */
function link(site: Site, store: TextStore): Site {
  const names = namesOf(site)
  const real = realPlaces(treeOf(site)).map(({ page }) => page.id)
  const image = site.files.find((file) => file.kind === 'image')
  const linksFrom = (id: string) =>
    real.map((to, index) => {
      const path = names.pages.get(to)!.path
      const href = index % 2 ? `/${encodeURI(path)}` : relativeReference(names.pages.get(id)!.path, path)
      return `<p><a href="${href}#part">${to}</a></p>`
    })
  return {
    ...site,
    pages: site.pages.map((page) => ({ ...page, content: store.put(linksFrom(page.id).join('\n')) })),
    files: site.files.map((file) => {
      if (file.kind !== 'style' || !image) return file
      const href = relativeReference(names.files.get(file.id)!, names.files.get(image.id)!)
      return { ...file, hash: store.put(`body { background: url("${href}") }\n`) }
    }),
  }
}

/** Whether a broken reference, as `path: href`, leads to where a trial page will be once it is none. */
function leadsToTrial(site: Site, broken: string): boolean {
  const [path, href] = broken.split(': ') as [string, string]
  const target = mergePath(
    path.slice(0, path.lastIndexOf('/') + 1),
    decodeURIComponent(splitReference(href).path),
  )
  return namesOf(site).byPath.get(trialFolder + target)?.kind === 'page'
}

/** Takes out the links to pages that leave the site: their author would have to. */
function unlink(site: Site, store: TextStore, gone: ReadonlySet<string>): Site {
  const names = namesOf(site)
  const leavesFrom = (id: string, href: string) => {
    const target = resolveReference(href, names.pages.get(id)!.path, names, homeFileOf(site))
    return target.kind === 'page' && gone.has(target.id)
  }
  const without = ({ id, content }: Page) =>
    store
      .textOf(content)
      .replace(/<p><a href="([^"]*)">.*<\/a><\/p>/g, (all, href: string) => (leavesFrom(id, href) ? '' : all))
  return { ...site, pages: site.pages.map((page) => ({ ...page, content: store.put(without(page)) })) }
}

interface Step {
  readonly what: number
  readonly pick: number
  readonly other: number
  readonly label: string
  readonly scheme: Scheme
}
const steps = fc.array(
  fc.record({ what: fc.nat(16), pick: fc.nat(), other: fc.nat(), label: labels, scheme: schemes }),
  { minLength: 1, maxLength: 6 },
)

function changeFor(site: Site, store: TextStore, { what, pick, other, label, scheme }: Step): Change {
  const { places } = treeOf(site)
  const page = places[pick % places.length]!.page
  const second = places[other % places.length]!.page
  const text = (field: 'label' | 'ownName' | 'date', value: string | null): Change => {
    return { kind: 'setPageText', pageId: page.id, field, value, was: page[field] }
  }
  const flag = (which: 'trial' | 'dated' | 'inMenus'): Change => {
    return { kind: 'setPageFlag', pageIds: [page.id], flag: which, value: !page[which] }
  }
  switch (what) {
    case 0:
      return {
        kind: 'addPages',
        parentId: page.parentId,
        after: page.id,
        pages: [{ id: testId(), label, children: [{ id: testId(), label: 'Visit' }] }],
        content: store.put(''),
      }
    case 1:
      return text('label', label)
    case 2:
      return { kind: 'movePages', pageIds: [page.id], parentId: second.id, after: null }
    case 3:
      return { kind: 'movePages', pageIds: [page.id], parentId: second.parentId, after: second.id }
    case 4:
      return { kind: 'removePages', pageIds: [page.id] }
    case 5:
      return flag('trial')
    case 6:
      return flag('dated')
    case 7:
      return text('ownName', page.ownName === null ? 'own-name' : null)
    case 8:
      return { kind: 'setHome', pageId: page.id, was: site.homeId }
    case 9: {
      const branch = branchOf(treeOf(site), page.id)
      const newIds = Object.fromEntries(branch.map(({ id }) => [id, testId()]))
      return { kind: 'duplicatePages', pageIds: [page.id], newIds }
    }
    case 10: {
      // The plan typed anew, its top level the other way round and one line called otherwise.
      const [home] = outlineOfSite(site)
      const top = home!.children.toReversed()
      if (top[0]) top[0] = { ...top[0], label }
      const wanted = {
        home: { label: home!.label, inMenus: home!.inMenus },
        top: plannedFrom(matchPlan(site, top, new Map()).lines, testId),
      }
      return { kind: 'replacePlan', ...planEdit(site, wanted), content: store.put('') }
    }
    case 11:
      return { kind: 'setTranslations', pairs: [{ pageId: page.id, ofId: pick % 5 ? second.id : null }] }
    case 12: {
      const language = pick % 2 ? 'de' : 'cy'
      const copied = untranslatedFrom(site, page.id, language)
      const newIds = Object.fromEntries(copied.map(({ id }) => [id, testId()]))
      return { kind: 'translatePages', pageId: page.id, language, newIds }
    }
    case 13:
      return { kind: 'setPageText', pageId: page.id, field: 'language', value: page.language ? null : 'de', was: page.language } // prettier-ignore
    case 14:
      return { kind: 'confirmTranslations', pageIds: [page.id, second.id] }
    case 15: {
      const original = originalOf(site, page)
      return { kind: 'renewCopies', copies: [{ pageId: page.id, ofId: original?.id ?? second.id, was: page.content }] } // prettier-ignore
    }
    default:
      return { kind: 'setScheme', scheme, was: site.scheme }
  }
}

/** As a delivery notes them: every page's address goes out into the world. */
function delivered(site: Site): Site {
  const real = realPlaces(treeOf(site)).map(({ page }) => page.id)
  const addresses = Object.fromEntries(real.map((id) => [id, [namesOf(site).pages.get(id)!.path]]))
  const edited = editWhole(site, { kind: 'noteAddresses', addresses })
  if ('refusal' in edited) throw new Error(edited.refusal.message)
  return edited.site
}

describe('after any change', () => {
  test('every reference of the whole built site leads to a file of it, and undo gives back every byte', () => {
    fc.assert(
      fc.property(sites, steps, fc.boolean(), (make, sequence, isOut) => {
        const store = new TextStore()
        const made = link(make(store), store)
        let site = isOut ? delivered(made) : made
        const first = buildAll(site, store)
        expect(brokenReferences(first)).toEqual([])
        const states = [site]
        for (const step of sequence) {
          const what = changeFor(site, store, step)
          const edited = editWhole(site, what)
          if ('refusal' in edited) continue
          const stays = new Set(edited.site.pages.map((page) => page.id))
          const gone = new Set(site.pages.map((page) => page.id).filter((id) => !stays.has(id)))
          states.push((site = unlink(site, store, gone)))
          // Made again for the site without the links: a plan says what its author saw.
          states.push((site = change(site, store, changeFor(site, store, step))))
          const built = buildAll(site, store)
          expect([what, brokenReferences(built).filter((one) => !leadsToTrial(site, one))]).toEqual([
            what,
            [],
          ])
          for (const [path, text] of built) expect([path, text.includes('.trial/')]).toEqual([path, false])
        }
        for (let at = states.length - 1; at > 0; at--) {
          const undone = applyDiff(site, reverseDiff(diffSites(states[at - 1]!, states[at]!)))
          if (!('site' in undone)) throw new Error(JSON.stringify(undone))
          site = undone.site
        }
        expect([...buildAll(site, store)]).toEqual([...first])
      }),
      { numRuns: 80 },
    )
  })
})
