import { relativePlain, relativeReference } from '#core/links'
import { escapeAttribute, escapeText } from '#core/markup'
import { ancestorsOf } from '#core/plan'
import type { Page } from '#core/site'
import type { CompiledTemplate } from './compile'
import type { SiteContext } from './context'
import { plainPath } from './output-reference'
import type { Entry } from './parts'

type Placed = CompiledTemplate['generated'][number]

/** What a part is on every page, worked out once. */
interface Fixed {
  /** Equal for parts that are written alike. */
  readonly key: string
  /** Its start tag, with what is passed on to it. */
  readonly opening: string
  readonly omitsOwn: boolean
  readonly describes: boolean
  readonly sharedLevels: number | null
}

const fixedOf = (() => {
  const known = new WeakMap<Placed, Fixed>()
  return (placed: Placed): Fixed => {
    let fixed = known.get(placed)
    if (!fixed) known.set(placed, (fixed = workOut(placed)))
    return fixed
  }
})()

function workOut({ part, attributes }: Placed): Fixed {
  const passed = Object.entries(attributes)
    .filter(([name]) => !part.attributes.some((one) => one.name === name))
    .map(([name, value]) => ` ${name}="${escapeAttribute(value)}"`)
  const named = 'class' in attributes ? '' : ` class="${part.name}"`
  return {
    key: JSON.stringify([part.name, attributes]),
    opening: `<nav${named}${passed.join('')}>`,
    omitsOwn: part.omitsOwn?.(attributes) ?? false,
    describes: part.describes?.(attributes) ?? false,
    sharedLevels: part.sharedLevels?.(attributes) ?? null,
  }
}

export const pageTitle = (page: Page): string => page.title ?? page.label

function link(
  context: SiteContext,
  from: string,
  page: Page,
  own: Page,
  rel: string,
  above: boolean,
): string {
  const text = escapeText(page.label)
  // An `a` without `href` is the standard's own way to show where one stands (HTML §4.5.1).
  if (page.id === own.id) return `<a aria-current="page">${text}</a>`
  const to = context.names.pages.get(page.id)!.path
  const href = plainPath.test(to) ? relativePlain(from, to) : escapeAttribute(relativeReference(from, to))
  return `<a${rel && ` rel="${rel}"`} href="${href}"${above ? ' aria-current="true"' : ''}>${text}</a>`
}

/**
 * A generated part for one page as HTML lines, or '' when it has nothing to show.
 * @param indent white space before each line but the first
 * @param unit one level of indentation
 */
export function renderGenerated(
  context: SiteContext,
  placed: Placed,
  page: Page,
  indent: string,
  unit: string,
): string {
  const { key: placedKey, sharedLevels: levels } = fixedOf(placed)
  if (levels === null) return render(context, placed, page, indent, unit)
  // It is the same on all pages of a folder that stand under the same entries of it.
  const marks = [...ancestorsOf(context.tree, page), page].slice(0, levels).map((one) => one.id)
  const { folder } = context.names.pages.get(page.id)!
  const isEntry = marks.length <= levels && marks[marks.length - 1] === page.id
  const key = `${placedKey} ${indent}|${unit}|${isEntry ? 1 : 0}${folder}|${marks.join()}`
  return context.made.get(key, () => render(context, placed, page, indent, unit))
}

function render(context: SiteContext, placed: Placed, page: Page, indent: string, unit: string): string {
  const { part, attributes } = placed
  const entries = part.entries(context, attributes, page)
  if (entries.length === 0) return ''
  const { opening, omitsOwn, describes } = fixedOf(placed)
  const from = context.names.pages.get(page.id)!.path
  const above = part.marksAbove ? ancestorsOf(context.tree, page) : []
  let html = opening
  let count = 0
  const list = (items: readonly Entry[], depth: string) => {
    const begin = `\n${depth}${unit}`
    html += `\n${depth}<${part.list}>`
    for (const { page: one, below } of items) {
      if (omitsOwn && one.id === page.id && below.length === 0) continue
      count += 1
      const rel = part.rel?.(context, page, one) ?? ''
      const anchor = link(context, from, one, page, rel, above.includes(one))
      const description = describes ? (one.description ?? '') : ''
      if (below.length === 0 && description === '') html += `${begin}<li>${anchor}</li>`
      else {
        html += `${begin}<li>${begin}${unit}${anchor}`
        if (description !== '') html += `${begin}${unit}<p>${escapeText(description)}</p>`
        if (below.length > 0) list(below, `${depth}${unit}${unit}`)
        html += `${begin}</li>`
      }
    }
    html += `\n${depth}</${part.list}>`
  }
  list(entries, `${indent}${unit}`)
  // With nothing but empty lists it leaves nothing behind.
  return count > 0 ? `${html}\n${indent}</nav>` : ''
}

/** What is the same on all pages that share it; null where each page has its own. */
function sharedKey(context: SiteContext, placed: Placed, page: Page): string | null {
  const depends = placed.part.dependsOn?.(context, placed.attributes, page)
  return depends === undefined ? null : `${fixedOf(placed).key} ${depends}`
}

/**
 * Everything of other pages that a part shows on this one; equal texts, equal parts. What is the same
 * for a whole section is written once for it.
 * @param digest makes a short text of a long one
 */
export function generatedSignature(
  context: SiteContext,
  placed: Placed,
  page: Page,
  digest: (text: string) => string,
): string {
  const { describes } = fixedOf(placed)
  const told = ({ label, description }: Page) =>
    describes && description ? `${label}\u0003${description}` : label
  const write = (entries: readonly Entry[]): string =>
    entries
      .map(
        (one) => `${told(one.page)}\u0001${context.names.pages.get(one.page.id)!.path}(${write(one.below)})`,
      )
      .join('\u0002')
  const made = () => digest(write(placed.part.entries(context, placed.attributes, page)))
  const key = sharedKey(context, placed, page)
  if (key === null) return made()
  let signature = context.signatures.get(key)
  if (signature === undefined) context.signatures.set(key, (signature = made()))
  return signature
}

/** Bytes a link of a menu takes beside its label and its address, about. */
export const linkOverhead = 48

/**
 * About how many bytes the generated parts of one page take: entries counted, nothing written. For
 * telling a template that multiplies without bound before it does.
 */
export function generatedWeight(context: SiteContext, placed: readonly Placed[], page: Page): number {
  const weigh = (entries: readonly Entry[], describes: boolean): number => {
    let bytes = 0
    for (const { page: one, below } of entries) {
      bytes += one.label.length + context.names.pages.get(one.id)!.path.length + linkOverhead
      bytes += (describes ? (one.description?.length ?? 0) : 0) + weigh(below, describes)
    }
    return bytes
  }
  let bytes = 0
  for (const one of placed) {
    const { describes } = fixedOf(one)
    const key = sharedKey(context, one, page)
    const known = key === null ? undefined : context.weights.get(key)
    const weight = known ?? weigh(one.part.entries(context, one.attributes, page), describes)
    if (key !== null) context.weights.set(key, weight)
    bytes += weight
  }
  return bytes
}
