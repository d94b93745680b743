import net from 'node:net'

/** A port that leads to another one, each byte on its way for so many milliseconds in each direction. */
export async function slowWayTo(
  port: number,
  oneWayMs: number,
): Promise<{ port: number; close: () => void }> {
  const sockets = new Set<net.Socket>()
  const server = net.createServer((here) => {
    const there = net.connect(port, '127.0.0.1')
    for (const [from, to] of [
      [here, there],
      [there, here],
    ] as const) {
      sockets.add(from)
      from.setNoDelay()
      from.on('data', (bytes) => setTimeout(() => to.writable && to.write(bytes), oneWayMs))
      from.on('error', () => to.destroy())
      from.on('close', () => setTimeout(() => to.destroy(), oneWayMs))
    }
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return {
    port: (server.address() as net.AddressInfo).port,
    close() {
      for (const socket of sockets) socket.destroy()
      server.close()
    },
  }
}
