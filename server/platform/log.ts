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
