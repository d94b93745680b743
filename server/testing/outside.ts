import http from 'node:http'
import type { AddressInfo } from 'node:net'

/** A server of somebody else, on loopback, that answers as it is told. */
export async function outsideServer(answer: http.RequestListener) {
  const server = http.createServer(answer)
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return {
    /** Its address, without a slash at the end. */
    base: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close() {
      server.closeAllConnections()
      server.close()
    },
  }
}
