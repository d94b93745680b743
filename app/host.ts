import { randomBytes, randomUUID } from 'node:crypto'
import type { Server } from 'node:http'
import { createRequestHandler } from '@react-router/express'
import express, { type NextFunction, type Request, type Response } from 'express'
import { RouterContextProvider } from 'react-router'
import { config } from '#server/config'
import { migrate } from '#server/database/migrate'
import { pool } from '#server/database/pool'
import { stopListening } from '#server/events'
import { log } from '#server/log'
import { startQueue } from '#server/queue'
import { requestContext } from './context'

// Composition: everything that makes one running server is put together here, and only here.

const unsafe = (method: string) => !['GET', 'HEAD', 'OPTIONS'].includes(method)

/** Refuses changes asked for by another site's page: Origin or Fetch Metadata have to say "same origin". */
function refuseCrossSite(request: Request, response: Response, next: NextFunction): void {
  if (unsafe(request.method)) {
    const site = request.get('sec-fetch-site')
    const origin = request.get('origin')
    const foreignOrigin = origin !== undefined && origin !== `${request.protocol}://${request.get('host')}`
    if (foreignOrigin || (site !== undefined && site !== 'same-origin' && site !== 'none')) {
      response.status(403).type('text').send('This request came from another site, so nothing was changed.')
      return
    }
  }
  next()
}

function securityHeaders(request: Request, response: Response, next: NextFunction): void {
  const nonce = randomBytes(16).toString('base64')
  response.locals.nonce = nonce
  response.set({
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'x-frame-options': 'SAMEORIGIN',
  })
  // The preview sets a policy of its own, for content that is the author's.
  if (!request.path.startsWith('/preview/'))
    response.set(
      'content-security-policy',
      [
        `default-src 'self'`,
        `script-src 'self' 'nonce-${nonce}'`,
        // Vite puts styles into the page while developing.
        `style-src 'self' ${import.meta.env.DEV ? "'unsafe-inline'" : `'nonce-${nonce}'`}`,
        // Radix and the list of rows set positions as style attributes.
        `style-src-attr 'unsafe-inline'`,
        `img-src 'self' data:`,
        `connect-src 'self'${import.meta.env.DEV ? ' ws:' : ''}`,
        `frame-src 'self'`,
        `worker-src 'self'`,
        `object-src 'none'`,
        `base-uri 'none'`,
        `form-action 'self'`,
        `frame-ancestors 'none'`,
      ].join('; '),
    )
  next()
}

/** Answers of the application belong to one person: no cache between may keep them. */
function logRequests(request: Request, response: Response, next: NextFunction): void {
  const requestId = randomUUID()
  response.locals.requestId = requestId
  response.set('x-request-id', requestId)
  const started = process.hrtime.bigint()
  response.on('finish', () => {
    const ms = Number(process.hrtime.bigint() - started) / 1e6
    // A preview's address is a key to it.
    const path = request.path.replace(/^\/preview\/[^/]+/, '/preview/(hidden)')
    const level = response.statusCode >= 500 ? 'error' : 'info'
    log[level](
      { requestId, method: request.method, path, status: response.statusCode, ms: Math.round(ms) },
      'request',
    )
  })
  next()
}

/** The Express application; `assets` is the folder of built client files, null in development. */
export function createApp(assets: string | null): express.Express {
  const app = express()
  app.disable('x-powered-by')
  if (assets) {
    app.use('/assets', express.static(`${assets}/assets`, { immutable: true, maxAge: '1y' }))
    app.use(express.static(assets, { maxAge: '1h', index: false }))
  }
  app.use(logRequests, refuseCrossSite, securityHeaders)
  app.all(
    '/{*splat}',
    createRequestHandler({
      build: () => import('virtual:react-router/server-build'),
      getLoadContext(request, response) {
        const context = new RouterContextProvider()
        context.set(requestContext, {
          nonce: response.locals.nonce as string,
          requestId: response.locals.requestId as string,
          remoteAddress: request.ip ?? '',
        })
        return context
      },
    }),
  )
  return app
}

/** Brings the database up to date and begins to take background work. */
export async function prepare(): Promise<void> {
  const applied = await migrate()
  if (applied.length > 0) log.info({ applied }, 'database migrated')
  await startQueue()
  if (config().demo) await (await import('../demo/load')).loadDemo()
}

/** Starts the server; resolves when it listens. */
export async function serve(assets: string): Promise<Server> {
  await prepare()
  const app = createApp(assets)
  return new Promise((resolve, reject) => {
    const server = app.listen(config().port, '127.0.0.1', (error?: Error) =>
      error ? reject(error) : resolve(server),
    )
  })
}

/** Ends everything `serve` began. */
export async function shutDown(server: Server | null): Promise<void> {
  server?.closeAllConnections()
  server?.close()
  const queue = await startQueue().catch(() => null)
  await queue?.stop()
  await stopListening()
  await pool().end()
}
