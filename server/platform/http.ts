/** Text that PostgreSQL, JSON and UTF-8 all can hold: half a character, and none at all, become a mark. */
export const storable = (text: string): string => text.replaceAll('\0', '\ufffd').toWellFormed()

/** A text as JSON; null for what is none. */
export function parseJson(text: string): unknown {
  try {
    // Only where an escape stands for such a character does every text have to be looked at.
    const isPlain = !/\\u(?:0000|d[89a-f])/i.test(text)
    return JSON.parse(
      storable(text),
      isPlain ? undefined : (_, value: unknown) => (typeof value === 'string' ? storable(value) : value),
    )
  } catch {
    return null
  }
}

/** Not there, or another's: the two look the same from outside. */
export const notFound = () => new Response('There is nothing at this address.', { status: 404 })
