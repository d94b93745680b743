/** An expected failure: a code to switch on, and a sentence for the author that says what to do next. */
export class Problem extends Error {
  constructor(
    readonly code: string,
    message: string,
    /** HTTP status it answers with. */
    readonly status = 400,
    readonly detail: unknown = null,
  ) {
    super(message)
  }
}

/** Not there, or another's: the two look the same from outside. */
export const notFound = () => new Response('There is nothing at this address.', { status: 404 })
