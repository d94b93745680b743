import { randomBytes } from 'node:crypto'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import net from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import express from 'express'
import sirv from 'sirv'

process.env.LOG_LEVEL = 'silent'
process.env.DATABASE_URL = 'postgres://nobody@127.0.0.1/none'
process.env.RUBRICANT_KEY = randomBytes(32).toString('base64')
process.env.RUBRICANT_ORIGIN = 'https://rubricant.example, http://127.0.0.1:4600'
process.env.RUBRICANT_PROXIES = '1'

let assets: string
let server: http.Server
let port: number
beforeAll(async () => {
  const { config } = await import('../../server/platform/config')
  const guards = await import('./guards')
  const app = express()
  app.set('trust proxy', config().trustedProxies)
  app.use(
    guards.logRequests,
    guards.refuseHosts,
    guards.refuseOddRequests,
    guards.securityHeaders,
    guards.neverCached,
    guards.refuseCrossSite,
    guards.readBody,
  )
  assets = await mkdtemp(path.join(os.tmpdir(), 'rubricant-assets-'))
  await writeFile(path.join(assets, 'gone.js'), 'let it = go')
  await writeFile(path.join(assets, 'here.js'), 'let it = be')
  app.use('/assets', guards.endWithWhatIsRead, sirv(assets))
  app.use((request, response) => {
    const body = Buffer.isBuffer(request.body) ? request.body.length : 0
    response.json({ origin: guards.publicOrigin(request), ip: request.ip, body })
  })
  server = app.listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  port = (server.address() as AddressInfo).port
})
afterAll(async () => {
  server.closeAllConnections()
  await new Promise((resolve) => server.close(resolve))
  await rm(assets, { recursive: true })
})

interface Answer {
  readonly status: number
  readonly headers: http.IncomingHttpHeaders
  readonly json: { origin: string; ip: string; body: number } | null
}

/** Asks as any program may, with headers of any kind; the body in pieces of its own. */
function ask(path: string, options: http.RequestOptions = {}, pieces: Buffer[] = []): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const request = http.request({ port, host: '127.0.0.1', path, ...options }, (response) => {
      let text = ''
      response.on('data', (data) => (text += String(data)))
      response.on('end', () => {
        const isJson = response.headers['content-type']?.includes('json')
        resolve({
          status: response.statusCode!,
          headers: response.headers,
          json: isJson && text !== '' ? JSON.parse(text) : null,
        })
      })
    })
    request.on('error', reject)
    for (const piece of pieces) request.write(piece)
    request.end()
  })
}
const proxied = { host: 'rubricant.example', 'x-forwarded-proto': 'https', 'x-forwarded-for': '192.0.2.7' }

describe('behind a proxy that is trusted', () => {
  test('the public address and the visitor’s are those it tells, and a change is taken', async () => {
    const headers = { ...proxied, origin: 'https://rubricant.example' }
    const answer = await ask('/x', { method: 'POST', headers }, [Buffer.from('abc')])
    expect(answer).toMatchObject({
      status: 200,
      json: { origin: 'https://rubricant.example', ip: '192.0.2.7', body: 3 },
    })
    expect(answer.headers['strict-transport-security']).toContain('max-age')
  })

  test('what the visitor makes up in front of it counts for nothing', async () => {
    const headers = { ...proxied, 'x-forwarded-for': '10.0.0.1, 192.0.2.7' }
    expect((await ask('/x', { headers })).json?.ip).toBe('192.0.2.7')
  })

  test('without TLS in front there is no promise of it', async () => {
    const answer = await ask('/x', { headers: { host: '127.0.0.1:4600' } })
    expect(answer.status).toBe(200)
    expect(answer.headers['strict-transport-security']).toBeUndefined()
  })
})

describe('a request is refused', () => {
  const own = { host: '127.0.0.1:4600' }

  test.each([
    ['evil.example', 421],
    ['127.0.0.1:4601', 421],
    ['localhost:4600', 421],
    ['[', 421],
    ['127.0.0.1:4600', 200],
  ])('for the host %s: %i', async (host, status) =>
    expect((await ask('/x', { headers: { host } })).status).toBe(status),
  )

  test.each([
    ['TRACE', 405],
    ['PUT', 405],
    ['OPTIONS', 405],
    ['HEAD', 200],
  ])('by the method %s: %i', async (method, status) =>
    expect((await ask('/x', { method, headers: own })).status).toBe(status),
  )

  test.each([
    ['/%00', 400],
    ['/%ff', 400],
    ['/%', 400],
    ['/sites/x/events.data', 404],
    ['/sites/x/site.zip.data', 404],
  ])('at %s: %i', async (path, status) => expect((await ask(path, { headers: own })).status).toBe(status))

  test.each<[string, Record<string, string>, number]>([
    ['another origin', { origin: 'https://elsewhere.example' }, 403],
    ['the right host by another scheme', { origin: 'https://127.0.0.1:4600' }, 403],
    ['no origin', { origin: 'null' }, 403],
    ['another site', { 'sec-fetch-site': 'cross-site' }, 403],
    ['a neighbour', { 'sec-fetch-site': 'same-site' }, 403],
    ['itself', { origin: 'http://127.0.0.1:4600', 'sec-fetch-site': 'same-origin' }, 200],
    ['a program', {}, 200],
  ])('when it changes something and comes from %s', async (_, headers, status) =>
    expect((await ask('/x', { method: 'POST', headers: { ...own, ...headers } })).status).toBe(status),
  )
})

describe('a body', () => {
  const own = { host: '127.0.0.1:4600' }
  const post = (path: string, pieces: Buffer[], headers: http.OutgoingHttpHeaders = {}) =>
    ask(path, { method: 'POST', headers: { ...own, ...headers } }, pieces).catch(
      (error: NodeJS.ErrnoException) => ({
        status: error.code,
      }),
    )
  const kilobytes = (count: number) => Array.from({ length: count }, () => Buffer.alloc(1024))

  test.each([
    ['/sign-in', 60, 200],
    ['/sign-up', 60, 200],
    ['/sign-in.data', 70, 413],
    ['/sites', 70, 413],
    ['/sites/new', 70, 200],
    ['/sites/x/changes', 9_000, 200],
    ['/sites/x/changes', 11_000, 413],
  ])('for %s of %i KB that tells no length: %i', async (path, count, status) => {
    expect(await post(path, kilobytes(count))).toMatchObject({ status })
  })

  test('that says it is longer than it may be is not read at all', async () => {
    const status = new Promise((resolve, reject) => {
      const socket = net.connect(port, '127.0.0.1')
      socket.on('error', reject)
      socket.on('data', (data) => resolve(/^HTTP\/1\.1 (\d+)/.exec(data.toString())?.[1]))
      socket.write('POST /sign-in HTTP/1.1\r\nHost: 127.0.0.1:4600\r\nContent-Length: 400000000\r\n\r\nx')
      socket.on('close', () => reject(new Error('closed without an answer')))
    })
    expect(await status).toBe('413')
  })

  test('that is packed is not unpacked', async () => {
    expect(await post('/sign-in', [Buffer.alloc(10)], { 'content-encoding': 'gzip' })).toMatchObject({
      status: 415,
    })
  })
})

test('answers are for nobody’s cache, and take nothing for what it is not', async () => {
  const { headers } = await ask('/x', { headers: { host: '127.0.0.1:4600' } })
  expect(headers).toMatchObject({ 'cache-control': 'no-store', 'x-content-type-options': 'nosniff' })
  expect(headers['content-security-policy']).toContain("frame-ancestors 'none'")
  // WebAssembly is for what works beside the interface alone.
  const policyOf = async (path: string) => {
    const { headers } = await ask(path, { headers: { host: '127.0.0.1:4600' } })
    return /script-src [^;]*/.exec(headers['content-security-policy'] as string)![0]
  }
  expect(await policyOf('/assets/answer.worker-BOj_s-s.js')).toBe("script-src 'self' 'wasm-unsafe-eval'")
  for (const path of ['/x', '/assets/site.js', '/sites/answer.worker.js'])
    expect(await policyOf(path)).toMatch(/^script-src 'self' 'nonce-\S+'$/)
})

test('what is no HTTP at all ends nothing', async () => {
  for (const bytes of [
    '\0\0\0\0',
    'GET / HTTP/9.9\r\n\r\n',
    'POST /x HTTP/1.1\r\nHost: 127.0.0.1:4600\r\nContent-Length: x\r\n\r\n',
  ]) {
    const socket = net.connect(port, '127.0.0.1')
    socket.on('error', () => {})
    socket.end(bytes)
    await new Promise((resolve) => socket.on('close', resolve).resume())
  }
  expect((await ask('/x', { headers: { host: '127.0.0.1:4600' } })).status).toBe(200)
})

test('a file of the build that is no more, since another build took its place, leaves nobody waiting', async () => {
  await rm(path.join(assets, 'gone.js'))
  const origin = { host: 'rubricant.example', 'x-forwarded-proto': 'https' }
  await expect(ask('/assets/gone.js', { headers: origin })).rejects.toMatchObject({ code: 'ECONNRESET' })
  expect(await ask('/assets/here.js', { headers: origin })).toMatchObject({ status: 200 })
})
