import deepEqual from 'fast-deep-equal'
import { generateNKeysBetween } from 'fractional-indexing'
import { checkDate, checkOwnNameOf, namesOf } from '#core/naming'
import { branchOf, cleanLabel, mostLevels, treeOf } from '#core/plan'
import { type Page, type Site } from '#core/site'
import type { Change, NewPage } from './change'
import {
  type Edited,
  elsewhere,
  gone,
  keptOnRelabel,
  labelRefusal,
  longestLabel,
  newPage,
  refuse,
} from './edited'
import { replacePlan } from './replace-plan'

/**
 * Applies one change to the structure of a site. References in contents that the change makes
 * wrong are not touched here: `findRewrites` tells them, for whoever holds the contents.
 */
export function edit(site: Site, change: Change): Edited {
  const edited = apply(site, change)
  if ('site' in edited && ['addPages', 'movePages', 'replacePlan'].includes(change.kind)) {
    const deep = treeOf(edited.site).places.find(({ depth }) => depth >= mostLevels)
    if (deep) return refuse('invalid', `“${deep.page.label}” would stand deeper than ${mostLevels} levels.`)
  }
  if ('refusal' in edited || change.kind === 'setScheme' || change.kind === 'releaseNames') return edited
  // Numbers follow the plan's order: that is what they are asked for.
  if (edited.site.scheme.numbered) return edited
  return { site: keepUnrelatedNames(site, edited.site) }
}

function apply(site: Site, change: Change): Edited {
  switch (change.kind) {
    case 'addPages':
      return addPages(site, change)
    case 'setPageText':
      return setPageText(site, change)
    case 'setContent':
      return updatePage(site, change.pageId, (page) =>
        page.content === change.was || page.content === change.content
          ? { ...page, content: change.content }
          : elsewhere(`The text of “${page.label}”`, page.content),
      )
    case 'setPageFlag': {
      if (change.flag === 'trial' && change.pageIds.includes(site.homeId))
        return refuse('invalid', 'The home page cannot be a trial page.')
      const ids = new Set(change.pageIds)
      const pages = site.pages.map((page) => {
        if (!ids.has(page.id) || page[change.flag] === change.value) return page
        return {
          ...page,
          [change.flag]: change.value,
          keptName: change.flag === 'trial' ? null : page.keptName,
        }
      })
      return { site: { ...site, pages } }
    }
    case 'replacePlan':
      return replacePlan(site, change)
    case 'releaseNames': {
      const ids = new Set(change.pageIds)
      return updatePages(site, (page) =>
        ids.has(page.id) && page.keptName !== null ? { ...page, keptName: null } : page,
      )
    }
    case 'dropAddresses':
      return updatePages(site, (page) => {
        const dropped = change.addresses[page.id]
        return dropped
          ? { ...page, addresses: page.addresses.filter((path) => !dropped.includes(path)) }
          : page
      })
    case 'noteAddresses':
      return updatePages(site, (page) => {
        const paths = new Set(change.addresses[page.id])
        const kept = page.addresses.filter((path) => paths.delete(path))
        return paths.size === 0 && kept.length === page.addresses.length
          ? page
          : { ...page, addresses: [...kept, ...[...paths].sort()] }
      })
    case 'duplicatePages':
      return duplicatePages(site, change)
    case 'setHome':
      return setHome(site, change)
    case 'movePages':
      return movePages(site, change)
    case 'removePages':
      return removePages(site, change)
    case 'setScheme':
      if (!deepEqual(site.scheme, change.was) && !deepEqual(site.scheme, change.scheme))
        return elsewhere('The naming scheme', null)
      // A new scheme names every page afresh; only what an author typed stays.
      return {
        site: {
          ...site,
          scheme: change.scheme,
          pages: site.pages.map((page) => {
            const addresses = change.forward === false && page.addresses.length > 0 ? [] : page.addresses
            return page.keptName === null && addresses === page.addresses
              ? page
              : { ...page, keptName: null, addresses }
          }),
        },
      }
    case 'setSetting': {
      const value = cleanLabel(change.value)
      if (site[change.field] !== change.was && site[change.field] !== value)
        return elsewhere('This setting', site[change.field])
      if (value === '') return refuse('invalid', 'This cannot be empty.')
      return { site: { ...site, [change.field]: value } }
    }
    case 'setTemplate': {
      const template = site.templates.find((one) => one.id === change.templateId)
      if (!template) return gone('The template')
      if (template.source !== change.was && template.source !== change.source)
        return elsewhere('The template', template.source)
      return {
        site: {
          ...site,
          templates: site.templates.map((one) =>
            one === template ? { ...one, source: change.source } : one,
          ),
        },
      }
    }
    case 'addFile': {
      const { id, fileKind: kind, hash, sizeBytes } = change
      const label = cleanLabel(change.label)
      if (label === '') return refuse('invalid', 'A file needs a name.')
      if (site.files.some((file) => file.id === id)) return { site }
      const file = { id, kind, label, seq: site.nextSeq, hash, sizeBytes }
      return { site: { ...site, nextSeq: site.nextSeq + 1, files: [...site.files, file] } }
    }
    case 'setFile': {
      const file = site.files.find((one) => one.id === change.fileId)
      if (!file) return gone('The file')
      if (file.hash !== change.was && file.hash !== change.hash)
        return elsewhere(`“${file.label}”`, file.hash)
      const next = { ...file, hash: change.hash, sizeBytes: change.sizeBytes }
      return { site: { ...site, files: site.files.map((one) => (one === file ? next : one)) } }
    }
    case 'removeFile':
      if (!site.files.some((file) => file.id === change.fileId)) return gone('The file')
      return { site: { ...site, files: site.files.filter((file) => file.id !== change.fileId) } }
  }
}

const updatePages = (site: Site, update: (page: Page) => Page): Edited => ({
  site: { ...site, pages: site.pages.map(update) },
})

function updatePage(site: Site, pageId: string, update: (page: Page) => Page | Edited): Edited {
  const page = treeOf(site).byId.get(pageId)
  if (!page) return gone('The page')
  const next = update(page)
  if (!('id' in next) || !('order' in next)) return next as Edited
  return { site: { ...site, pages: site.pages.map((one) => (one === page ? next : one)) } }
}

function setPageText(site: Site, change: Extract<Change, { kind: 'setPageText' }>): Edited {
  const { field, was } = change
  return updatePage(site, change.pageId, (page) => {
    // A change that was made already, its answer lost on the way, may be asked for again.
    if (page[field] !== was && page[field] !== change.value)
      return elsewhere(`This page’s ${field === 'ownName' ? 'own name' : field}`, page[field])
    if (field === 'ownName') {
      const refusal = change.value === null ? null : checkOwnNameOf(site, page.id, change.value)
      if (refusal) return refuse('invalid', refusal.reason)
      return { ...page, ownName: change.value, keptName: null }
    }
    const value = change.value === null ? '' : cleanLabel(change.value)
    if (field === 'date') {
      const date = value === '' ? null : checkDate(value)
      if (value !== '' && date === null)
        return refuse('invalid', 'Write a date as 2025, 2025-06 or 2025-06-14.')
      return { ...page, date, keptName: null }
    }
    if (field !== 'label') return { ...page, [field]: value === '' ? null : value }
    const unusable = labelRefusal(value)
    if (unusable) return unusable
    return { ...page, label: value, keptName: keptOnRelabel(site, page) }
  })
}

/** Order keys for `count` pages that are to follow `after` under `parentId`. */
function orderKeys(
  site: Site,
  parentId: string | null,
  after: string | null,
  count: number,
  moving?: Set<string>,
) {
  const siblings = treeOf(site)
    .childrenOf(parentId)
    // The home page is shown first whatever its key: what follows it is the first of the others.
    .filter((page) => page.id !== site.homeId && !moving?.has(page.id))
    // By key alone: trial pages are shown last whatever theirs.
    .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.seq - b.seq))
  const at = after === null ? -1 : siblings.findIndex((page) => page.id === after)
  const low = siblings[at]?.order ?? null
  // Equal keys (two windows at once) leave no room between them, so the next larger one is taken.
  const high = siblings.slice(at + 1).find((page) => low === null || page.order > low)?.order ?? null
  return generateNKeysBetween(low, high, count)
}

/** The place a page may really stand: nothing stands under the home page or before it. */
function settlePlace(site: Site, parentId: string | null, after: string | null) {
  const under = parentId === site.homeId ? null : parentId
  const first = under === null && after === null && treeOf(site).byId.get(site.homeId)?.parentId === null
  return { parentId: under, after: first ? site.homeId : after }
}

function addPages(site: Site, change: Extract<Change, { kind: 'addPages' }>): Edited {
  const tree = treeOf(site)
  if (change.parentId !== null && !tree.byId.has(change.parentId)) return gone('The page to add under')
  // Asked for again because the answer was lost on the way: it is done.
  if (change.pages.length > 0 && change.pages.every((page) => tree.byId.has(page.id))) return { site }
  const { parentId, after } = settlePlace(site, change.parentId, change.after)
  const added: Page[] = []
  const ids = new Set(tree.byId.keys())
  let seq = site.nextSeq
  const queue: { pages: readonly NewPage[]; parentId: string | null; keys: string[] }[] = [
    { pages: change.pages, parentId, keys: orderKeys(site, parentId, after, change.pages.length) },
  ]
  for (let at = 0; at < queue.length; at++) {
    const { pages, parentId: under, keys } = queue[at]!
    for (const [index, one] of pages.entries()) {
      const label = cleanLabel(one.label)
      const unusable = labelRefusal(label)
      if (unusable) return unusable
      if (ids.has(one.id))
        return refuse('invalid', 'Two pages cannot have one id; this one is part of the site.')
      ids.add(one.id)
      added.push({
        ...newPage(one.id, label, seq++, change.content),
        parentId: under,
        order: keys[index]!,
        trial: one.trial ?? false,
        inMenus: one.inMenus ?? true,
      })
      if (one.children?.length)
        queue.push({
          pages: one.children,
          parentId: one.id,
          keys: generateNKeysBetween(null, null, one.children.length),
        })
    }
  }
  return { site: { ...site, nextSeq: seq, pages: [...site.pages, ...added] } }
}

function movePages(site: Site, change: Extract<Change, { kind: 'movePages' }>): Edited {
  const tree = treeOf(site)
  const moving = new Set(change.pageIds)
  if (change.pageIds.some((id) => !tree.byId.has(id))) return gone('A page to move')
  if (moving.has(site.homeId)) return refuse('invalid', 'The home page stays at the top.')
  if (change.parentId !== null && !tree.byId.has(change.parentId)) return gone('The page to move under')
  for (let at = change.parentId; at !== null; at = tree.byId.get(at)?.parentId ?? null)
    if (moving.has(at)) return refuse('invalid', 'A page cannot stand under itself.')
  const { parentId, after } = settlePlace(site, change.parentId, change.after)
  const keys = orderKeys(site, parentId, after, moving.size, moving)
  const orders = new Map([...moving].map((id, index) => [id, keys[index]!]))
  const pages = site.pages.map((page) => {
    const order = orders.get(page.id)
    if (order === undefined) return page
    return { ...page, parentId, order, keptName: page.parentId === parentId ? page.keptName : null }
  })
  return { site: { ...site, pages } }
}

function removePages(site: Site, change: Extract<Change, { kind: 'removePages' }>): Edited {
  const tree = treeOf(site)
  if (change.pageIds.includes(site.homeId)) return refuse('invalid', 'A site needs its home page.')
  const removed = new Set(change.pageIds.flatMap((id) => branchOf(tree, id).map((page) => page.id)))
  if (removed.size === 0) return { site }
  return { site: { ...site, pages: site.pages.filter((page) => !removed.has(page.id)) } }
}

function duplicatePages(site: Site, change: Extract<Change, { kind: 'duplicatePages' }>): Edited {
  const tree = treeOf(site)
  if (change.pageIds.includes(site.homeId)) return refuse('invalid', 'A site has one home page.')
  if (change.pageIds.some((id) => !tree.byId.has(id))) return gone('A page to copy')
  const chosen = new Set(change.pageIds)
  // One that stands below another chosen one is copied with it, and not a second time.
  const roots = [...chosen].filter((id) => {
    for (let at = tree.byId.get(id)!.parentId; at !== null; at = tree.byId.get(at)?.parentId ?? null)
      if (chosen.has(at)) return false
    return true
  })
  const originals = roots.flatMap((id) => branchOf(tree, id))
  const newIds = originals.map((page) => change.newIds[page.id] ?? '')
  // Asked for again because the answer was lost on the way: it is done.
  if (newIds.every((id) => tree.byId.has(id))) return { site }
  if (new Set(newIds).size < newIds.length || newIds.some((id) => id === '' || tree.byId.has(id)))
    return refuse('invalid', 'The copies have no ids of their own.')
  let seq = site.nextSeq
  let after = site
  for (const id of roots) {
    const original = tree.byId.get(id)!
    const [order] = orderKeys(after, original.parentId, id, 1)
    const copies = branchOf(tree, id).map((page): Page => {
      const root = page.id === id
      const label = root ? `${page.label} (copy)` : page.label
      return {
        ...page,
        id: change.newIds[page.id]!,
        parentId: root ? page.parentId : change.newIds[page.parentId!]!,
        order: root ? order! : page.order,
        seq: seq++,
        label: label.length > longestLabel ? page.label : label,
        // A name of its own belongs to one page.
        ownName: null,
        keptName: null,
        addresses: [],
      }
    })
    after = { ...after, nextSeq: seq, pages: [...after.pages, ...copies] }
  }
  return { site: after }
}

/** The new home page goes to the top; what stood under it moves up to where it stood. */
function setHome(site: Site, change: Extract<Change, { kind: 'setHome' }>): Edited {
  const tree = treeOf(site)
  const page = tree.byId.get(change.pageId)
  if (!page) return gone('The page')
  if (site.homeId !== change.was && site.homeId !== page.id) return elsewhere('The home page', site.homeId)
  if (page.id === site.homeId) return { site }
  if (tree.placeOf.get(page.id)?.trial) return refuse('invalid', 'A trial page cannot be the home page.')
  const below = tree.childrenOf(page.id)
  const lifted = new Map(
    orderKeys(site, page.parentId, page.id, below.length).map((order, index) => [below[index]!.id, order]),
  )
  const [first, second] = orderKeys(site, null, null, 2)
  const pages = site.pages.map((one) => {
    if (one.id === page.id) return { ...one, parentId: null, order: first!, keptName: null }
    if (one.id === site.homeId) return { ...one, order: second! }
    const order = lifted.get(one.id)
    return order === undefined ? one : { ...one, parentId: page.parentId, order, keptName: null }
  })
  return { site: { ...site, homeId: page.id, pages } }
}

/**
 * Holds the names of pages still that the change was not about: when the older of two pages that
 * wanted one name is removed, the younger keeps the name it has been known by.
 */
function keepUnrelatedNames(before: Site, after: Site): Site {
  // A name held still frees the one its page would have had, and a third page would take that: so
  // until nothing moves. Each round holds at least one more name.
  for (;;) {
    const next = keepOnce(before, after)
    if (next === after) return after
    after = next
  }
}

function keepOnce(before: Site, after: Site): Site {
  if (before.pages === after.pages) return after
  const were = namesOf(before).pages
  const treeBefore = treeOf(before)
  const treeAfter = treeOf(after)
  const become = namesOf(after).pages
  const keep = new Map<string, string>()
  for (const { page, trial } of treeAfter.places) {
    const was = were.get(page.id)
    const old = treeBefore.byId.get(page.id)
    if (!was || !old || trial || page.id === after.homeId || page.id === before.homeId) continue
    if (page.keptName !== null) continue
    if (become.get(page.id)!.stem === was.stem) continue
    // The page itself was renamed, moved or put in or out of trial: its new name is what was asked for.
    if (old.label !== page.label || old.parentId !== page.parentId || old.ownName !== page.ownName) continue
    const section = page.parentId === null ? undefined : treeAfter.byId.get(page.parentId)
    if (section && treeBefore.byId.get(section.id)?.dated !== section.dated) continue
    if (old.date !== page.date) continue
    if (old.trial !== page.trial || treeBefore.placeOf.get(page.id)?.trial) continue
    keep.set(page.id, was.stem)
  }
  if (keep.size === 0) return after
  return {
    ...after,
    pages: after.pages.map((page) => {
      const keptName = keep.get(page.id)
      return keptName === undefined ? page : { ...page, keptName }
    }),
  }
}
