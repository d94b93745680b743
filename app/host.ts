import type { Server } from 'node:http'
import express, { type NextFunction, type Request, type Response } from 'express'
import sirv from 'sirv'
import { config, log, migrate, pool, stopListening } from '#server/platform'
import { endBringers } from '#server/bringing'
import { endReaders } from '#server/contents'
import { endLookers, endSpellers } from '#server/sites'
import { endChangers } from '#server/sites'
import { startBackground, stopBackground } from '../server/background'
import { countAnswer, serveFigures } from './edge/figures'
import { answerHealth, beginDraining } from './edge/health'
import {
  endWithWhatIsRead,
  logRequests,
  neverCached,
  packAnswers,
  readBody,
  refuseCrossSite,
  refuseHosts,
  refuseOddRequests,
  securityHeaders,
} from './edge/guards'
import { routeHandler } from './edge/handler'
import { surviveErrors } from './edge/survive'

// Composition: everything that makes one running server is put together here, and only here.

/** Shows figures, where that is asked for. */
let figures: Server | null = null

/** Answers under way, streams of events aside: they are waited for when the server ends. */
let answering = 0

function countAnswers(request: Request, response: Response, next: NextFunction): void {
  if (!request.path.endsWith('/events')) {
    answering += 1
    response.once('close', () => (answering -= 1))
  }
  next()
}

const hourSeconds = 60 * 60
/** Names in `assets` carry a hash of what they name: it never changes. */
const yearSeconds = 365 * 24 * hourSeconds

/** The Express application; `assets` is the folder of built client files, null in development. */
export function createApp(assets: string | null): express.Express {
  const app = express()
  app.disable('x-powered-by')
  app.set('trust proxy', config().trustedProxies)
  app.use(answerHealth, countAnswer, logRequests, refuseHosts, refuseOddRequests, securityHeaders)
  if (assets) {
    // Packed when they were built, each twice (`bin/lib/build.mjs`).
    const packed = { brotli: true, gzip: true, extensions: [] }
    app.use(endWithWhatIsRead)
    app.use('/assets', sirv(`${assets}/assets`, { ...packed, immutable: true, maxAge: yearSeconds }))
    app.use(sirv(assets, { ...packed, maxAge: hourSeconds }))
  }
  app.use(neverCached, refuseCrossSite, countAnswers, packAnswers, readBody)
  app.all(
    '/{*splat}',
    routeHandler(() => import('virtual:react-router/server-build')),
  )
  // Express knows an error handler by its four parameters.
  // eslint-disable-next-line @typescript-eslint/no-unused-vars
  app.use((error: unknown, _request: Request, response: Response, _next: NextFunction) => {
    log.error({ err: error }, 'answering failed')
    if (response.headersSent) response.destroy()
    else response.status(500).type('text').send('Something failed here. Nothing of yours is lost.')
  })
  return app
}

/** Brings the database up to date and begins to take background work. */
export async function prepare(): Promise<void> {
  const applied = await migrate()
  if (applied.length > 0) log.info({ applied }, 'database migrated')
  await startBackground()
  if (config().demo) await (await import('../demo/load')).loadDemo()
}

/** How long a request may take to arrive, its headers and all of it. */
const headersMs = 15_000
const requestMs = 15 * 60_000
/** How long a connection is kept for the next request: longer than proxies keep one, which else send into a closed one. */
const keepAliveMs = 75_000

/** Starts the server; resolves when it listens. */
export async function serve(assets: string): Promise<Server> {
  surviveErrors(() => shutDown(running))
  let running: Server | null = null
  await prepare()
  const app = createApp(assets)
  const { port, address, figuresPort } = config()
  if (figuresPort !== null) figures = await serveFigures(figuresPort, address)
  return new Promise((resolve, reject) => {
    const server = app.listen(port, address, (error?: Error) =>
      error ? reject(error) : resolve((running = server)),
    )
    server.headersTimeout = headersMs
    server.requestTimeout = requestMs
    server.keepAliveTimeout = keepAliveMs
    server.on('clientError', (_error, socket) => {
      if (socket.writable) socket.end('HTTP/1.1 400 Bad Request\r\nConnection: close\r\n\r\n')
    })
  })
}

const drainMs = 5_000

/** Ends everything `serve` began: no new requests, those under way to their end, then the rest. */
export async function shutDown(server: Server | null): Promise<void> {
  beginDraining()
  if (server) await new Promise((resolve) => setTimeout(resolve, config().noticeMs))
  server?.close()
  server?.closeIdleConnections()
  for (const until = Date.now() + drainMs; answering > 0 && Date.now() < until;)
    await new Promise((resolve) => setTimeout(resolve, 20))
  server?.closeAllConnections()
  figures?.close()
  figures?.closeAllConnections()
  await stopBackground()
  await stopListening()
  await endReaders()
  await endBringers()
  await endLookers()
  await endSpellers()
  await endChangers()
  await pool().end()
}
