import { accountOf } from '#server/accounts'
import { config, listen, log, pool } from '#server/platform'
import { revisionOf, roleIn } from '#server/sites'
import { requireSite } from '../../owner.server'
import type { Route } from './+types/events'

/** What may wait to be read before a window counts as gone. */
const mostWaiting = 1_000

const headers = {
  'content-type': 'text/event-stream',
  'cache-control': 'no-store',
  'x-accel-buffering': 'no',
}

/** Tells a window of changes and deliveries as they happen (HTML §9.2, server-sent events). */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { account, site, revision } = await requireSite(request, params.siteId, 'look')
  if (request.method === 'HEAD') return new Response(null, { headers })
  const encoder = new TextEncoder()
  let end = () => {}
  const body = new ReadableStream<Uint8Array>(
    {
      async start(controller) {
        let ended = false
        let unlisten = () => {}
        let beat: NodeJS.Timeout | undefined = undefined
        end = () => {
          if (ended) return
          ended = true
          clearInterval(beat)
          unlisten()
          request.signal.removeEventListener('abort', end)
          try {
            controller.close()
          } catch {
            // Cancelled by its reader, it is closed already.
          }
        }
        const send = (text: string) => {
          if (ended) return
          // A window that reads nothing is not waited for: it asks again, and is told where things stand.
          if ((controller.desiredSize ?? 0) < -mostWaiting) end()
          else controller.enqueue(encoder.encode(text))
        }
        const tellRevision = (number: number) =>
          send(
            `event: revision\ndata: ${JSON.stringify({ siteId: site.id, kind: 'revision', revision: number })}\n\n`,
          )
        const fetchMissed = () => {
          revisionOf(pool(), site.id).then(
            (now) => {
              if (now === null) return end()
              tellRevision(now)
              send('event: gap\ndata: {}\n\n')
            },
            (error: unknown) => log.warn({ err: error }, 'fetching what was missed'),
          )
        }
        request.signal.addEventListener('abort', end)
        if (request.signal.aborted) return end()
        try {
          const stop = await listen(
            site.id,
            (event) => send(`event: ${event.kind}\ndata: ${JSON.stringify(event)}\n\n`),
            fetchMissed,
          )
          if (ended) return stop()
          unlisten = stop
        } catch (error) {
          log.warn({ err: error }, 'listening for events')
          return end()
        }
        beat = setInterval(() => {
          send(': still here\n\n')
          // The stream ends with the session, and with the part in the site; a database that is away for a moment ends nothing.
          Promise.all([accountOf(request), roleIn(pool(), site.id, account.id)]).then(
            ([now, role]) => (now?.id === account.id && role !== null) || end(),
            () => {},
          )
        }, config().heartbeatMs)
        send('retry: 1000\n')
        // Whatever happened while the window was away shows in the revision it begins with.
        tellRevision(revision)
        send('event: gap\ndata: {}\n\n')
      },
      cancel: () => end(),
    },
    { highWaterMark: 0 },
  )
  return new Response(body, { headers })
}
