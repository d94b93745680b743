import { contentsOfPages, type Site } from './document'

/** What is not whole in a site: which of its rules is broken, and by what. */
export interface SiteFault {
  readonly rule:
    | 'repeated-id'
    | 'unknown-parent'
    | 'above-itself'
    | 'home'
    | 'order-key'
    | 'no-template'
    | 'unknown-template'
    | 'based-on-itself'
    | 'no-content'
    | 'repeated-seq'
    | 'repeated-word'
  readonly id: string
}

/**
 * Keys of a fractional index: an integer part whose first letter tells its length, and a fraction that
 * does not end in the smallest digit, since nothing could ever be put before such a one.
 */
export function isOrderKey(key: string): boolean {
  const head = key.charCodeAt(0)
  const length =
    head >= 97 && head <= 122 ? head - 97 + 2 : head >= 65 && head <= 90 ? 90 - head + 2 : Infinity
  if (key.length < length || !/^[0-9A-Za-z]+$/.test(key)) return false
  return key.length === length || !key.endsWith('0')
}

/** Templates that may be based on one another in a row. */
export const mostBases = 8

/**
 * Everything that is not whole in a site; an empty list is what every change has to leave behind. Ids
 * are unique, over pages, files and templates each; every parent exists and none stands above itself;
 * the home page is there and at the top level; keys are keys; contents have names; templates that pages and
 * templates name are there, and none is based on itself; words that it keeps are some, each once. Linear in the site.
 */
export function checkSite(site: Site): SiteFault[] {
  const faults: SiteFault[] = []
  const add = (rule: SiteFault['rule'], id: string) => void faults.push({ rule, id })
  for (const rows of [site.pages, site.files, site.templates] as const) {
    const ids = new Set<string>()
    for (const { id } of rows) {
      if (id === '' || ids.has(id)) add('repeated-id', id)
      ids.add(id)
    }
  }
  const byId = new Map(site.pages.map((page) => [page.id, page]))
  const templates = new Map(site.templates.map((one) => [one.id, one]))
  const numbers = new Set<number>()
  for (const page of site.pages) {
    if (page.parentId !== null && !byId.has(page.parentId)) add('unknown-parent', page.id)
    if (!isOrderKey(page.order)) add('order-key', page.id)
    if (contentsOfPages([page, ...(page.translatedFrom ? [page.translatedFrom] : [])]).includes(''))
      add('no-content', page.id)
    for (const id of [page.templateId, page.belowTemplateId])
      if (id !== null && !templates.has(id)) add('unknown-template', page.id)
    if (numbers.has(page.seq) || page.seq >= site.nextSeq) add('repeated-seq', page.id)
    numbers.add(page.seq)
  }
  // From each page upward until ground that is known; what is met again on the way is a circle.
  const grounded = new Set<string>()
  for (const page of site.pages) {
    const way = new Set<string>()
    let at: string | null = page.id
    while (at !== null && byId.has(at) && !grounded.has(at)) {
      if (way.has(at)) {
        add('above-itself', at)
        break
      }
      way.add(at)
      at = byId.get(at)!.parentId
    }
    for (const id of way) grounded.add(id)
  }
  const home = byId.get(site.homeId)
  if (!home || home.parentId !== null || home.trial) add('home', site.homeId)
  if (site.pages.some((page) => page.parentId === site.homeId)) add('home', site.homeId)
  if (!templates.has(site.templateId)) add('no-template', site.id)
  for (const template of site.templates) {
    const way = new Set<string>()
    for (let at: string | null = template.id; at !== null; at = templates.get(at)?.basedOn ?? null) {
      if (!templates.has(at)) add('unknown-template', template.id)
      if (way.has(at) || way.size > mostBases) {
        add('based-on-itself', template.id)
        break
      }
      way.add(at)
    }
  }
  const words = new Set(site.ownWords)
  if (words.size < site.ownWords.length || words.has('')) add('repeated-word', site.id)
  return faults
}
