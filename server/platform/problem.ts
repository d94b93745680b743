/** Not there, or another's: the two look the same from outside. */
export const notFound = () => new Response('There is nothing at this address.', { status: 404 })
