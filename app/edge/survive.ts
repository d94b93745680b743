import { log } from '#server/platform'

/**
 * Errors of sockets and streams that were told to nobody: their connection is gone, and nothing else.
 * Whatever else is thrown out of nowhere may have left something half done.
 */
function isOfConnection(error: unknown): boolean {
  const { code, level, syscall, message } = (error ?? {}) as Record<string, unknown>
  return (
    syscall !== undefined ||
    level !== undefined ||
    /^(E[A-Z]+|ERR_STREAM|ERR_SOCKET|ERR_TLS|ABORT_ERR|57P\d\d|08\d\d\d)/.test(String(code)) ||
    /^(Connection terminated|Connection lost|socket hang up)/.test(String(message))
  )
}

/**
 * The last net: no error of a socket, stream, worker or timer ends the process. What can be survived is
 * logged; on anything else it drains and ends, to be started again.
 * @param drain ends everything cleanly
 */
export function surviveErrors(drain: () => Promise<void>): void {
  process.on('unhandledRejection', (error) => log.error({ err: error }, 'a promise nobody waited for failed'))
  process.on('uncaughtException', (error) => {
    if (isOfConnection(error)) {
      log.error({ err: error }, 'an error of a connection nobody listened to')
      return
    }
    log.fatal({ err: error }, 'ending after an error nobody caught')
    void drain().finally(() => process.exit(1))
  })
}
