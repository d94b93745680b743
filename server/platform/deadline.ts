/**
 * A signal that ends work after a time, or when one of some signals does. Instead of `AbortSignal.timeout`, which
 * `AbortSignal.any` does not keep: once memory is collected that deadline never comes (Node.js 20 and 22). Here its
 * timer keeps it.
 * @param ms from now on
 * @param others what ends the work sooner
 */
export function deadline(ms: number, ...others: readonly (AbortSignal | undefined)[]): AbortSignal {
  const controller = new AbortController()
  const late = () => controller.abort(new DOMException('Nothing came of it in time.', 'TimeoutError'))
  setTimeout(late, ms).unref()
  const given = others.filter((one) => one !== undefined)
  return given.length === 0 ? controller.signal : AbortSignal.any([controller.signal, ...given])
}
