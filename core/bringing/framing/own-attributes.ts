import type { ReadPage } from '../reading/read-page'

/** An attribute of the page itself that each page has of its own: a class, a name for style sheets, a language. */
export interface OwnAttribute {
  readonly tag: 'html' | 'body'
  readonly attribute: string
  /** The slot that holds it. */
  readonly slot: string
}

/** Attributes that refer to something, or are scripts and styles: what they name has to be followed, and so they are no plain text. */
export const isPlain = (name: string) =>
  !/^(on.*|style|href|src|background|action|manifest|xmlns.*)$/.test(name) && /^[\w:.-]+$/.test(name)

/**
 * Attributes of `html` and `body` that differ in a group of pages; null where they differ in a way that no value can stand for,
 * so that the elements cannot be a template's.
 */
export function ownAttributes(group: readonly ReadPage[]): readonly OwnAttribute[] | null {
  const own: OwnAttribute[] = []
  for (const tag of ['html', 'body'] as const) {
    const tops = group.map(({ tops }) => tops.get(tag))
    const present = tops.filter((top) => top !== undefined)
    if (present.length === 0) continue
    if (present.length < tops.length) return null
    for (const name of new Set(present.flatMap(({ attributes }) => [...attributes.keys()]))) {
      const said = present.map(({ attributes }) => attributes.get(name))
      if (said.every((one) => one?.key === said[0]?.key && one !== undefined)) continue
      const isValue = said.every(
        (one) => !one || (one.range !== null && one.value.trim() !== '' && !one.refers),
      )
      if (!isPlain(name) || !isValue) return null
      const slot = (tag === 'body' ? name : `${tag}-${name}`).replace(/[^\w-]/g, '-')
      own.push({ tag, attribute: name, slot })
    }
  }
  return own
}
