import http from 'node:http'
import type { NextFunction, Request, Response } from 'express'
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client'
import { pool } from '#server/platform'

// Figures in the form that Prometheus reads (text format 0.0.4), at a port of their own: they are nobody's but whoever's
// who runs the server.

const registry = new Registry()

const answers = new Histogram({
  name: 'rubricant_answer_seconds',
  help: 'How long requests took to be answered, streams of events aside.',
  labelNames: ['method', 'part', 'status'] as const,
  buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.3, 1, 3, 10, 30],
  registers: [registry],
})
const streams = new Gauge({
  name: 'rubricant_event_streams',
  help: 'Windows that are told of changes as they are made.',
  registers: [registry],
})
const refused = new Counter({
  name: 'rubricant_errors_total',
  help: 'Requests answered with a status of 500 or more.',
  registers: [registry],
})
new Gauge({
  name: 'rubricant_database_connections',
  help: 'Connections to the database, by what they do.',
  labelNames: ['state'] as const,
  registers: [registry],
  collect() {
    const { totalCount, idleCount, waitingCount } = pool()
    this.set({ state: 'busy' }, totalCount - idleCount)
    this.set({ state: 'idle' }, idleCount)
    this.set({ state: 'waited for' }, waitingCount)
  },
})

/** Parts of the application by their paths; ids would make a figure for every site. */
const parts = /^\/sites\/[^/]+\/([a-z-]+)/

function partOf(path: string): string {
  if (path.startsWith('/assets/')) return 'assets'
  const inSite = parts.exec(path)?.[1]
  if (inSite) return `site ${inSite}`
  return /^\/(sites|preview|looks|bringing|kits|account|sign-in|sign-up)\b/.exec(path)?.[1] ?? 'other'
}

/** Counts a request when it is answered. */
export function countAnswer(request: Request, response: Response, next: NextFunction): void {
  if (request.path.endsWith('/events')) {
    streams.inc()
    response.once('close', () => streams.dec())
    next()
    return
  }
  // Each of several layers listens for the end of an answer; Node takes more than ten for a leak.
  response.setMaxListeners(20)
  const end = answers.startTimer({ method: request.method })
  response.once('close', () => {
    const { statusCode } = response
    end({ part: partOf(request.path), status: `${Math.floor(statusCode / 100)}xx` })
    if (statusCode >= 500) refused.inc()
  })
  next()
}

/** Shows the figures at a port of their own; resolves when it listens. */
export function serveFigures(port: number, address: string): Promise<http.Server> {
  collectDefaultMetrics({ register: registry, prefix: 'rubricant_' })
  const server = http.createServer((request, response) => {
    if (request.method !== 'GET' || request.url !== '/metrics') {
      response.writeHead(404).end()
      return
    }
    registry.metrics().then(
      (text) => response.writeHead(200, { 'content-type': registry.contentType }).end(text),
      () => response.writeHead(500).end(),
    )
  })
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, address, () => resolve(server))
  })
}
