import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { ReadableStream } from 'node:stream/web'
import type { NextFunction, Request as ExpressRequest, Response as ExpressResponse } from 'express'
import {
  createRequestHandler,
  type RequestHandler,
  RouterContextProvider,
  type ServerBuild,
} from 'react-router'
import { requestContext } from './context'
import { isStreamed, publicOrigin } from './guards'

/**
 * Hands a request to React Router. Not by its own adapter for Express, which reads the body from the
 * socket: here it has been read already, no further than it may go.
 */
export function routeHandler(build: () => Promise<ServerBuild>) {
  // Made once for a build: given a function, React Router ranks every route anew with each request. While it is
  // developed the build is another one after each edit.
  const handlers = new WeakMap<ServerBuild, RequestHandler>()
  const handlerNow = async (): Promise<RequestHandler> => {
    const built = await build()
    let handle = handlers.get(built)
    if (!handle) handlers.set(built, (handle = createRequestHandler(built)))
    return handle
  }
  return async (request: ExpressRequest, response: ExpressResponse, next: NextFunction): Promise<void> => {
    try {
      const context = new RouterContextProvider()
      context.set(requestContext, {
        nonce: response.locals.nonce as string,
        requestId: response.locals.requestId as string,
        remoteAddress: request.ip ?? '',
      })
      const handle = await handlerNow()
      const answer = await handle(webRequest(request, response), context)
      response.status(answer.status)
      // What is still coming of a file that was refused is not waited for.
      if (isStreamed(request) && answer.status >= 400) response.set('connection', 'close')
      for (const [name, value] of answer.headers)
        if (name === 'set-cookie') response.append(name, value)
        else response.set(name, value)
      if (answer.headers.get('content-type')?.startsWith('text/event-stream')) response.flushHeaders()
      // Waits for its reader, and ends what makes it when the reader goes.
      if (answer.body && request.method !== 'HEAD')
        await pipeline(Readable.fromWeb(answer.body as ReadableStream), response)
      else {
        await answer.body?.cancel()
        response.end()
      }
    } catch (error) {
      // Whoever asked has gone: nobody is left to answer.
      if (response.destroyed || response.writableEnded) return
      if (response.headersSent) response.destroy()
      else next(error)
    }
  }
}

function webRequest(request: ExpressRequest, response: ExpressResponse): Request {
  const headers = new Headers()
  for (const [name, value] of Object.entries(request.headers))
    for (const one of [value ?? []].flat()) headers.append(name, one)
  const gone = new AbortController()
  response.on('close', () => {
    if (!response.writableFinished) gone.abort()
  })
  // A GET that is answered by a stream ends with its connection as well.
  response.on('finish', () => gone.abort())
  const body = isStreamed(request)
    ? { body: Readable.toWeb(request) as unknown as BodyInit, duplex: 'half' as const }
    : request.method === 'POST' && Buffer.isBuffer(request.body)
      ? { body: new Uint8Array(request.body) }
      : {}
  return new Request(new URL(request.originalUrl, publicOrigin(request) ?? undefined), {
    method: request.method,
    headers,
    signal: gone.signal,
    ...body,
  })
}
