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

const isIp = (host: string) => /^[\d.]+$|:/.test(host)

/**
 * Opens one request to an address outside, never to one that the server may not reach.
 * @param idleMs how long it may say nothing, once it was reached
 */
export async function openOutside(
  url: URL,
  method: 'HEAD' | 'GET',
  headers: http.OutgoingHttpHeaders,
  signal: AbortSignal,
  idleMs = 0,
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
): Promise<OutsideAnswer> {
  const { status, headers: said, body, end } = await openOutside(url, method, headers, signal)
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
