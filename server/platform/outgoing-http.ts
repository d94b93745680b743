import { createHash } from 'node:crypto'
import http from 'node:http'
import tls from 'node:tls'
import { config } from './config'
import { dial } from './outgoing'

/** What a server answered. */
export interface OutsideAnswer {
  readonly status: number
  readonly headers: http.IncomingHttpHeaders
  /** SHA-256 of its body in hexadecimal; null where that was not to be read, or is longer than was wanted. */
  readonly hash: string | null
}

/** What a server answers, its body to be read. Whoever opened it ends it. */
export interface OpenAnswer {
  readonly status: number
  readonly headers: http.IncomingHttpHeaders
  readonly body: AsyncIterable<Buffer>
  readonly end: () => void
}

/** What a server is given before it counts as hanging, in milliseconds; nothing ends what it gives no number for. */
export interface Patience {
  /** Until it has answered: its status and what stands above the body. */
  readonly answerMs?: number
  /** Without a byte, once it was reached. */
  readonly idleMs?: number
}

const isIp = (host: string) => /^[\d.]+$|:/.test(host)

/** Opens one request to an address outside, never to one that the server may not reach. */
export async function openOutside(
  url: URL,
  method: 'HEAD' | 'GET',
  headers: http.OutgoingHttpHeaders,
  cancelled: AbortSignal,
  { answerMs, idleMs = 0 }: Patience = {},
): Promise<OpenAnswer> {
  // Over once it has answered: how long its body takes is another matter.
  const late = new AbortController()
  const timer = answerMs === undefined ? undefined : setTimeout(() => late.abort(), answerMs)
  try {
    const signal = AbortSignal.any([cancelled, late.signal])
    return await answerFrom(url, method, headers, signal, idleMs)
  } finally {
    clearTimeout(timer)
  }
}

async function answerFrom(
  url: URL,
  method: 'HEAD' | 'GET',
  headers: http.OutgoingHttpHeaders,
  signal: AbortSignal,
  idleMs: number,
): Promise<OpenAnswer> {
  const isSecure = url.protocol === 'https:'
  const port = Number(url.port) || (isSecure ? 443 : 80)
  const host = url.hostname.replace(/^\[|\]$/g, '')
  const plain = await dial(host, port, config().outgoing, signal)
  const socket = isSecure ? tls.connect({ socket: plain, servername: isIp(host) ? undefined : host }) : plain
  socket.on('error', () => {})
  socket.setTimeout(idleMs, () => socket.destroy(new Error(`Nothing came for ${idleMs} ms`)))
  const end = () => {
    socket.destroy()
    plain.destroy()
  }
  try {
    const response = await new Promise<http.IncomingMessage>((resolve, reject) => {
      const request = http.request({
        method,
        path: url.pathname + url.search,
        headers: { ...headers, host: url.host, connection: 'close' },
        createConnection: () => socket,
        signal,
        maxHeaderSize: 32_768,
      })
      request.on('error', reject)
      request.on('response', resolve)
      request.end()
    })
    // What breaks off later is heard by whoever reads on; where nobody does, by nobody.
    response.on('error', () => {})
    return { status: response.statusCode ?? 0, headers: response.headers, body: response, end }
  } catch (error) {
    end()
    throw error
  }
}

/**
 * One request to an address outside, never to one that the server may not reach.
 * @param mostBytes of its body that are read; 0 waits for none of it
 */
export async function askOutside(
  url: URL,
  method: 'HEAD' | 'GET',
  headers: http.OutgoingHttpHeaders,
  signal: AbortSignal,
  mostBytes = 0,
  patience: Patience = {},
): Promise<OutsideAnswer> {
  const { status, headers: said, body, end } = await openOutside(url, method, headers, signal, patience)
  try {
    if (mostBytes === 0) return { status, headers: said, hash: null }
    const hash = createHash('sha256')
    let size = 0
    for await (const piece of body) {
      size += piece.length
      if (size > mostBytes) return { status, headers: said, hash: null }
      hash.update(piece)
    }
    return { status, headers: said, hash: hash.digest('hex') }
  } finally {
    end()
  }
}
