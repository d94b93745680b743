import { AsyncLocalStorage } from 'node:async_hooks'
import pino from 'pino'

/** Whose request is being answered, for every line that is written while it is. */
interface RequestOfLog {
  readonly requestId: string
  readonly origin: string
  account?: string
}

const requests = new AsyncLocalStorage<RequestOfLog>()

/** Runs `work` so that what it logs tells which request it belongs to. */
export const inRequest = <T>(request: RequestOfLog, work: () => T): T => requests.run(request, work)

/** Notes whose request it is, once that is known. */
export function noteAccount(accountId: string): void {
  const request = requests.getStore()
  if (request) request.account = accountId
}

/** Structured logs on standard output. Paths that could hold a secret are struck out wherever they stand. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? 'info',
  base: null,
  mixin: () => ({ ...requests.getStore() }),
  redact: {
    paths: [
      'password',
      '*.password',
      'passwordSealed',
      '*.passwordSealed',
      'cookie',
      'headers.cookie',
      'headers.authorization',
      'token',
      '*.token',
    ],
    censor: '(hidden)',
  },
})

/** What whoever looks after the server's safety wants to find in its log. */
export type SafetyEvent =
  | 'account made'
  | 'account left'
  | 'signed in'
  | 'sign-in refused'
  | 'guesses held back'
  | 'second step refused'
  | 'second step begun'
  | 'second step ended'
  | 'signed out'
  | 'sessions ended'
  | 'password asked for again, refused'
  | 'password changed'
  | 'password chosen by a link'
  | 'address changed'
  | 'role given'
  | 'role taken'
  | 'not allowed'

/** Writes that something happened; whose request it was, and where it came from, stand beside it. No secret goes in here. */
export const noteEvent = (event: SafetyEvent, details: Readonly<Record<string, string | null>> = {}): void =>
  log.info({ event, ...details }, 'safety')
