import { Problem, sentenceOf } from '#core/problems'

/** A line of an answer that tells how far something is, as JSON. */
export type ProgressLine =
  | { readonly done: number; readonly all: number }
  | { readonly problem: string }
  /** `result`: what the work yields, where it yields something. */
  | { readonly end: true; readonly result?: unknown }

/** Lines that are told in a second, at most. */
const tellEveryMs = 150
/** After so long without a line the last is told again: a proxy cuts an answer that is silent, mostly after a minute. */
const beatMs = 15_000

/**
 * An answer that tells how far a long work is while it is done, line by line (JSON, one value a line). The work
 * is cancelled when whoever asked for it hangs up.
 * @param silentMs how long nothing may be told
 */
export function progressStream(
  gone: AbortSignal,
  work: (signal: AbortSignal, tell: (done: number, all: number) => void) => Promise<unknown>,
  onError: (error: unknown) => void,
  silentMs = beatMs,
): Response {
  const cancelled = new AbortController()
  const cancel = () => cancelled.abort()
  gone.addEventListener('abort', cancel, { once: true })
  const encoder = new TextEncoder()
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const send = (line: ProgressLine) => {
        if (!cancelled.signal.aborted) controller.enqueue(encoder.encode(`${JSON.stringify(line)}\n`))
      }
      let told = 0
      let last: ProgressLine = { done: 0, all: 0 }
      const beat = setInterval(() => send(last), silentMs)
      try {
        const result = await work(cancelled.signal, (done, all) => {
          last = { done, all }
          const now = performance.now()
          if (done < all && done > 0 && now - told < tellEveryMs) return
          told = now
          beat.refresh()
          send(last)
        })
        send({ end: true, result })
      } catch (error) {
        if (!(error instanceof Problem) && !cancelled.signal.aborted) onError(error)
        send({ problem: error instanceof Problem ? error.message : sentenceOf('went-wrong', undefined) })
      } finally {
        clearInterval(beat)
        gone.removeEventListener('abort', cancel)
        try {
          controller.close()
        } catch {
          // Its reader has gone and closed it.
        }
      }
    },
    cancel,
  })
  return new Response(body, {
    headers: {
      'content-type': 'application/x-ndjson',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    },
  })
}
