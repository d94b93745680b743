import { createReadStream, type Stats } from 'node:fs'
import fs from 'node:fs/promises'
import http from 'node:http'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import mime from 'mime-types'
import type { Accounts } from './accounts'
import type { Faults } from './faults'
import type { Letterbox } from './mail'

/**
 * The public address of the folder: plain web space. A folder answers with its home file, case
 * counts, what is not there is 404 (with the folder's own `404.html` if it has one).
 */
export function createWebServer(accounts: Accounts, letterbox: Letterbox, faults: Faults): http.Server {
  return http.createServer((request, response) => {
    // No account has this name: theirs begin with a letter.
    if (request.method === 'GET' && request.url === '/~') {
      response.writeHead(200, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' })
      response.end(letterbox.page())
      return
    }
    void answer(accounts, faults, request, response).catch(() => {
      if (!response.headersSent) response.writeHead(500)
      response.end()
    })
  })
}

async function answer(
  accounts: Accounts,
  faults: Faults,
  request: http.IncomingMessage,
  response: http.ServerResponse,
): Promise<void> {
  if (request.method !== 'GET' && request.method !== 'HEAD') {
    response.writeHead(405, { allow: 'GET, HEAD' }).end()
    return
  }
  const { pathname, search } = new URL(request.url ?? '/', 'http://practice.invalid')
  let wanted: string
  try {
    wanted = path.posix.normalize(decodeURIComponent(pathname))
  } catch {
    response.writeHead(400).end()
    return
  }
  const { root, path: below } = accounts.shownAt(wanted)
  // Dot files stay private, as on most hosts; and no path leaves the root.
  const hidden = wanted.split('/').some((segment) => segment.startsWith('.'))
  const file = path.join(root, below)
  const stats = hidden ? null : await fs.stat(file).catch(() => null)
  if (stats?.isDirectory()) {
    const isWhole = wanted.endsWith('/') || faults.slashes === 'not wanted'
    if (!isWhole && faults.slashes === 'added') {
      response.writeHead(301, { location: `${pathname}/${search}` }).end()
      return
    }
    for (const home of isWhole ? faults.homeFiles : []) {
      const found = await fs.stat(path.join(file, home)).catch(() => null)
      if (found?.isFile()) return send(path.join(file, home), found, 200, faults, request, response)
    }
  } else if (stats?.isFile() && !wanted.endsWith('/'))
    return send(file, stats, 200, faults, request, response)
  const own = path.join(root, '404.html')
  const ownStats = await fs.stat(own).catch(() => null)
  if (ownStats?.isFile()) return send(own, ownStats, 404, faults, request, response)
  response.writeHead(404, { 'content-type': 'text/html; charset=utf-8' })
  response.end(
    '<!DOCTYPE html>\n<html lang="en"><title>Not found</title><p>There is no page at this address.</p>\n',
  )
}

async function send(
  file: string,
  { size, mtimeMs, mtime }: Stats,
  status: number,
  faults: Faults,
  request: http.IncomingMessage,
  response: http.ServerResponse,
): Promise<void> {
  const type = mime.contentType(path.extname(file)) || 'application/octet-stream'
  const etag = `"${mtimeMs.toString(36)}-${size.toString(36)}"`
  // Who has it already is told no more (RFC 9110 §13.1.2).
  if (status === 200 && request.headers['if-none-match'] === etag) {
    faults.visitors.told += 1
    response.writeHead(304, { etag, 'cache-control': 'no-cache' }).end()
    return
  }
  response.writeHead(status, {
    'content-type': type,
    'content-length': size,
    'cache-control': 'no-cache',
    'last-modified': mtime.toUTCString(),
    ...(status === 200 && { etag }),
  })
  if (request.method === 'HEAD') {
    response.end()
    return
  }
  faults.visitors.sent += 1
  await pipeline(createReadStream(file), faults.line, response).catch(() => response.destroy())
}
