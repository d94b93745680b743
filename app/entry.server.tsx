import { PassThrough } from 'node:stream'
import { createReadableStreamFromReadable } from '@react-router/node'
import { isbot } from 'isbot'
import { renderToPipeableStream } from 'react-dom/server'
import {
  type EntryContext,
  isRouteErrorResponse,
  type RouterContextProvider,
  ServerRouter,
} from 'react-router'
import { Problem } from '#core/problems'
import { log } from '#server/platform'
import { requestContext } from './edge/context'

export const streamTimeout = 10_000

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  routerContext: EntryContext,
  loadContext: RouterContextProvider,
): Promise<Response> {
  const { nonce } = loadContext.get(requestContext)
  const ready = isbot(request.headers.get('user-agent')) ? 'onAllReady' : 'onShellReady'
  return new Promise((resolve, reject) => {
    let code = status
    const { pipe, abort } = renderToPipeableStream(
      <ServerRouter context={routerContext} url={request.url} nonce={nonce} />,
      {
        nonce,
        [ready]() {
          const body = new PassThrough()
          headers.set('content-type', 'text/html; charset=utf-8')
          headers.set('cache-control', 'no-store')
          resolve(new Response(createReadableStreamFromReadable(body), { headers, status: code }))
          pipe(body)
        },
        onShellError: reject,
        onError(error: unknown) {
          code = 500
          log.error({ err: error }, 'rendering failed')
        },
      },
    )
    setTimeout(abort, streamTimeout + 1_000)
  })
}

/** Expected failures are told to the author; only the others are ours to look into. */
export function handleError(
  error: unknown,
  { request, context }: { request: Request; context: RouterContextProvider },
): void {
  if (request.signal.aborted || error instanceof Problem || isRouteErrorResponse(error)) return
  log.error({ err: error, requestId: context.get(requestContext).requestId }, 'request failed')
}
