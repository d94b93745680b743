import { randomBytes, randomUUID } from 'node:crypto'
import compression from 'compression'
import type { NextFunction, Request, Response } from 'express'
import helmet from 'helmet'
import { config, inRequest, log } from '#server/platform'

// What every request has to get through before anything of the application sees it.

const say = (response: Response, status: number, sentence: string) =>
  response.status(status).set('cache-control', 'no-store').type('text').send(sentence)

/** The public origin a request was made to, as far as its proxies are trusted; null when it is none of ours. */
export function publicOrigin(request: Request): string | null {
  const origin = `${request.protocol}://${request.host ?? ''}`.toLowerCase()
  return config().origins.includes(origin) ? origin : null
}

/**
 * Refuses a host that is not ours: a name of somebody else's that leads here would make their page's
 * scripts our own (DNS rebinding). Headers of proxies that nobody trusts are taken off.
 */
export function refuseHosts(request: Request, response: Response, next: NextFunction): void {
  if (config().trustedProxies === 0)
    for (const name of Object.keys(request.headers))
      if (name.startsWith('x-forwarded-') || name === 'forwarded') delete request.headers[name]
  if (publicOrigin(request) === null) {
    say(response, 421, 'This server is not reached under this name.')
    return
  }
  next()
}

const methods = ['GET', 'HEAD', 'POST']

/** Refuses what no route can answer: other methods, addresses that are no text, data of endless answers. */
export function refuseOddRequests(request: Request, response: Response, next: NextFunction): void {
  if (!methods.includes(request.method)) {
    response.set('allow', methods.join(', '))
    say(response, 405, 'This is not asked for in this way.')
    return
  }
  let path: string
  try {
    path = decodeURIComponent(request.path)
    new URL(request.originalUrl, 'http://a.invalid')
  } catch {
    say(response, 400, 'This address is not well formed.')
    return
  }
  if (path.includes('\0') || /%00/.test(request.originalUrl))
    say(response, 400, 'This address is not well formed.')
  else if (/\/(events|(site|archive|kit|there)\.zip)\.data$/.test(path))
    say(response, 404, 'There is nothing at this address.')
  else next()
}

/** Refuses changes asked for by another site's page: Origin or Fetch Metadata have to say "same origin". */
export function refuseCrossSite(request: Request, response: Response, next: NextFunction): void {
  if (request.method === 'POST') {
    const site = request.get('sec-fetch-site')
    const origin = request.get('origin')
    const isForeign = origin !== undefined && origin !== publicOrigin(request)
    if (isForeign || (site !== undefined && site !== 'same-origin' && site !== 'none')) {
      say(response, 403, 'This request came from another site, so nothing was changed.')
      return
    }
  }
  next()
}

/** How long whoever sends too much has for reading the answer. */
const lingerMs = 1_000

const accountForms =
  /^\/(sign-in|sign-in\/second|sign-up|sign-out|sites|account|forgotten|new-password\/[^/]+|new-account\/[^/]+|new-address\/[^/]+)\/?(\.data)?$/
/** Largest bodies in bytes: forms of an account, and everything else. */
const mostOfForm = 64 * 1024
const mostOfBody = 10 * 1024 * 1024

/**
 * Reads a body as bytes. Not by Express's own reader, which answers only once all that is too much has
 * arrived.
 * @param done with the bytes, or the status of the answer when there are none to be had
 */
function readUpTo(request: Request, most: number, done: (body: Buffer | number) => void): void {
  // Packed ones could grow without bound.
  if ((request.get('content-encoding') ?? 'identity') !== 'identity') return done(415)
  if (Number(request.get('content-length') ?? 0) > most) return done(413)
  const pieces: Buffer[] = []
  let size = 0
  const end = (body: Buffer | number) => {
    request.off('data', take).off('end', finish).off('error', fail).off('close', fail)
    done(body)
  }
  const take = (piece: Buffer) => {
    size += piece.length
    if (size > most) end(413)
    else pieces.push(piece)
  }
  const finish = () => end(Buffer.concat(pieces))
  const fail = () => end(400)
  request.on('data', take).on('end', finish).on('error', fail).on('close', fail)
}

const refusals: Readonly<Record<number, string>> = {
  413: 'This is more than can be taken at once.',
  415: 'This request is packed; it is taken as it is only.',
}

/** Files are taken as they come, in portions, by a route that counts them itself. */
export const isStreamed = (request: Request): boolean =>
  request.method === 'POST' &&
  /^\/(sites\/[^/]+\/(files|uploads\/[^/]+)|(kits|sites)\/take-in|bringing\/[^/]+\/(files|uploads\/[^/]+))$/.test(
    request.path,
  )

/** Reads a body, no further than it may go: by the length it tells, and by counting. */
export function readBody(request: Request, response: Response, next: NextFunction): void {
  if (request.method !== 'POST' || isStreamed(request)) {
    next()
    return
  }
  const isForm = accountForms.test(request.path)
  readUpTo(request, isForm ? mostOfForm : mostOfBody, (body) => {
    if (typeof body !== 'number') {
      request.body = body
      next()
      return
    }
    // What is still coming is not kept: the connection ends soon after the answer has gone.
    response.set('connection', 'close')
    response.once('finish', () => setTimeout(() => request.socket.destroy(), lingerMs).unref())
    request.on('error', () => {}).resume()
    say(response, body, refusals[body] ?? 'This request could not be read.')
  })
}

/**
 * Packs answers of text for whoever takes them packed. Streams of events are not: each of their lines is
 * waited for; nor are parts of something, whose bytes are counted as they are.
 */
export const packAnswers = compression({
  filter: (request, response) =>
    !String(response.getHeader('content-type')).startsWith('text/event-stream') &&
    !response.hasHeader('content-range') &&
    compression.filter(request, response),
})

/** With hot reload: Vite has a server of its own then, and puts styles into the page. */
const isDeveloping = !['production', 'test'].includes(process.env.NODE_ENV ?? '')

const nonceOf = (_request: unknown, response: unknown) =>
  `'nonce-${(response as Response).locals.nonce as string}'`

const common = {
  referrerPolicy: { policy: 'same-origin' },
  // Set below, since only what came over TLS may say it.
  strictTransportSecurity: false,
} as const

type Sources = (string | typeof nonceOf)[]
const withScripts = (scripts: Sources) =>
  helmet({
    ...common,
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': [`'self'`],
        'script-src': scripts,
        // Vite puts styles into the page while developing.
        'style-src': [`'self'`, isDeveloping ? `'unsafe-inline'` : nonceOf],
        // Radix and the list of rows set positions as style attributes.
        'style-src-attr': [`'unsafe-inline'`],
        // A picture that is on its way to the server is shown from the window's own memory.
        'img-src': [`'self'`, 'data:', 'blob:'],
        'media-src': [`'self'`, 'blob:'],
        'connect-src': isDeveloping ? [`'self'`, 'ws:'] : [`'self'`],
        'frame-src': [`'self'`],
        'worker-src': [`'self'`],
        'object-src': [`'none'`],
        'base-uri': [`'none'`],
        'form-action': [`'self'`],
        'frame-ancestors': [`'none'`],
      },
    },
  })
const ofApplication = withScripts([`'self'`, nonceOf])
/** What works beside the interface, and sees neither it nor its cookies, reads photographs with a decoder in WebAssembly. */
const ofWorkers = withScripts([`'self'`, `'wasm-unsafe-eval'`])
const isWorker = /^\/(?:assets|app\/workers)\/answer\.worker[\w.-]*$/
/** What is the author's has a policy of its own (`preview.ts`), and is asked for by pages without an origin. */
const ofPreview = helmet({
  ...common,
  contentSecurityPolicy: false,
  crossOriginResourcePolicy: false,
  // Who may show it stands in that policy.
  xFrameOptions: false,
})

export function securityHeaders(request: Request, response: Response, next: NextFunction): void {
  response.locals.nonce = randomBytes(16).toString('base64')
  if (request.secure)
    response.set(
      'strict-transport-security',
      `max-age=31536000${config().hstsSubdomains ? '; includeSubDomains' : ''}`,
    )
  const set = request.path.startsWith('/preview/')
    ? ofPreview
    : isWorker.test(request.path)
      ? ofWorkers
      : ofApplication
  set(request, response, next)
}

/** A file that is on its way and cannot be read any more, since another build took its place, ends its answer: none waits for ever. */
export function endWithWhatIsRead(_request: Request, response: Response, next: NextFunction): void {
  response.once('pipe', (source) => source.once('error', () => response.destroy()))
  next()
}

/** Answers belong to one person: no cache between may keep them. After the static files, which belong to all. */
export function neverCached(_request: Request, response: Response, next: NextFunction): void {
  response.set('cache-control', 'no-store')
  next()
}

/** Numbers each request and writes a line when it is answered, with whose it was and where it came from. */
export function logRequests(request: Request, response: Response, next: NextFunction): void {
  const requestId = randomUUID()
  response.locals.requestId = requestId
  response.set('x-request-id', requestId)
  const started = process.hrtime.bigint()
  inRequest({ requestId, origin: request.ip ?? '' }, () => {
    response.on('finish', () => {
      const ms = Number(process.hrtime.bigint() - started) / 1e6
      // These addresses are keys to what they show.
      const path = request.path.replace(
        /^\/(preview|looks|invitations|new-password|new-account|new-address)\/[^/]+/,
        '/$1/(hidden)',
      )
      const level = response.statusCode >= 500 ? 'error' : 'info'
      log[level]({ method: request.method, path, status: response.statusCode, ms: Math.round(ms) }, 'request')
    })
    next()
  })
}
