import type { NextFunction, Request, Response } from 'express'
import { log, pool } from '#server/platform'

/** How long the database may take to answer before this process counts as not ready. */
const patienceMs = 2_000

let draining = false

/** From now on this process is not ready: whoever passes requests on sends them elsewhere. */
export function beginDraining(): void {
  draining = true
}

const say = (response: Response, status: number, word: string) =>
  response.status(status).set('cache-control', 'no-store').type('text').send(`${word}\n`)

async function isReady(): Promise<boolean> {
  if (draining) return false
  let timer: NodeJS.Timeout | undefined
  const late = new Promise<false>((resolve) => {
    timer = setTimeout(() => resolve(false), patienceMs)
  })
  const asked = pool()
    .query('SELECT 1')
    .then(
      () => true,
      (error: unknown) => {
        log.warn({ err: error }, 'not ready')
        return false
      },
    )
  return Promise.race([asked, late]).finally(() => clearTimeout(timer))
}

/**
 * Answers whoever looks after this process, under whatever name it is asked: `/health/live` while it answers at all,
 * `/health/ready` while it can do its work and takes more of it.
 */
export function answerHealth(request: Request, response: Response, next: NextFunction): void {
  if (request.path === '/health/live') say(response, 200, 'live')
  else if (request.path === '/health/ready')
    void isReady().then((ready) => say(response, ready ? 200 : 503, ready ? 'ready' : 'not ready'))
  else next()
}
