import type { WrittenTag } from '../reading/page-tree'
import type { ReadPage } from '../reading/read-page'

/** An attribute of an element of the frame that each page has of its own: a class, a name for style sheets, a language. */
export interface OwnAttribute {
  readonly attribute: string
  /** The slot that holds it. */
  readonly slot: string
  /** The tag that it is written in, in the order of the pages. */
  readonly tags: readonly WrittenTag[]
}

/** Attributes that refer to something, or are scripts and styles: what they name has to be followed, and so they are no plain text. */
export const isPlain = (name: string) =>
  !/^(on.*|style|href|src|background|action|manifest|xmlns.*)$/.test(name) && /^[\w:.-]+$/.test(name)

/** Attributes that differ in the tag of one element on some pages; null where they do in a way that no value can stand for. */
export function differingAttributes(tags: readonly WrittenTag[]): readonly string[] | null {
  const differing: string[] = []
  for (const name of new Set(tags.flatMap(({ attributes }) => [...attributes.keys()]))) {
    const said = tags.map(({ attributes }) => attributes.get(name))
    if (said.every((one) => one?.key === said[0]?.key && one !== undefined)) continue
    const isValue = said.every(
      (one) => !one || (one.range !== null && one.value.trim() !== '' && !one.refers),
    )
    if (!isPlain(name) || !isValue) return null
    differing.push(name)
  }
  return differing
}

/** Attributes of one element that differ, each with a slot called after it. */
export const ownOf = (
  names: readonly string[],
  tags: readonly WrittenTag[],
  holder: string | null,
  taken: readonly OwnAttribute[],
): OwnAttribute[] =>
  names.map((attribute) => {
    const stem = (holder === null ? attribute : `${holder}-${attribute}`).replace(/[^\w-]/g, '-')
    let slot = stem
    for (let nth = 2; taken.some((one) => one.slot === slot); nth++) slot = `${stem}-${nth}`
    return { attribute, slot, tags }
  })

/**
 * Attributes of `html` and `body` that differ in a group of pages; null where they differ in a way that no value can stand for,
 * so that the elements cannot be a template's.
 */
export function ownAttributes(group: readonly ReadPage[]): readonly OwnAttribute[] | null {
  const own: OwnAttribute[] = []
  for (const tag of ['html', 'body'] as const) {
    const tops = group.flatMap(({ tops }) => tops.get(tag) ?? [])
    if (tops.length === 0) continue
    const names = tops.length < group.length ? null : differingAttributes(tops)
    if (names === null) return null
    own.push(...ownOf(names, tops, tag === 'body' ? null : tag, own))
  }
  return own
}
