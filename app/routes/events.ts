import { listen } from '#server/events'
import { requireSite } from '../owner.server'
import type { Route } from './+types/events'

/** Proxies end a connection that is silent for long. */
const heartbeatMs = 20_000

/** Tells a window of changes and deliveries as they happen (HTML §9.2, server-sent events). */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, revision } = await requireSite(request, params.siteId)
  const encoder = new TextEncoder()
  let stop = () => {}
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const send = (text: string) => controller.enqueue(encoder.encode(text))
      const beat = setInterval(() => send(': still here\n\n'), heartbeatMs)
      const unlisten = await listen(site.id, (event) =>
        send(`event: ${event.kind}\ndata: ${JSON.stringify(event)}\n\n`),
      )
      stop = () => {
        clearInterval(beat)
        unlisten()
      }
      if (request.signal.aborted) {
        stop()
        return
      }
      request.signal.addEventListener('abort', () => {
        stop()
        controller.close()
      })
      // Whatever happened while the window was away shows in the revision it begins with.
      send(
        `retry: 2000\nevent: revision\ndata: ${JSON.stringify({ siteId: site.id, kind: 'revision', revision })}\n\n`,
      )
    },
    cancel: () => stop(),
  })
  return new Response(body, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  })
}
