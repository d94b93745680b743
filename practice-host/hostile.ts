import net from 'node:net'
import type { AddressInfo } from 'node:net'

/** A listener on loopback that misbehaves before any protocol does, and the port it has. */
export interface HostileListener {
  readonly port: number
  /** Connections it has had. */
  readonly connectionCount: () => number
  close(): Promise<void>
}

async function listen(onSocket: (socket: net.Socket) => void): Promise<HostileListener> {
  const sockets = new Set<net.Socket>()
  let connectionCount = 0
  // Small answers go on at once: held back until the one before is acknowledged (RFC 896), each would wait 40 ms.
  const server = net.createServer({ noDelay: true }, (socket) => {
    connectionCount += 1
    sockets.add(socket)
    socket.on('error', () => {})
    socket.on('close', () => sockets.delete(socket))
    onSocket(socket)
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(0, '127.0.0.1', resolve)
  })
  return {
    port: (server.address() as AddressInfo).port,
    connectionCount: () => connectionCount,
    async close() {
      for (const socket of sockets) socket.destroy()
      await new Promise((resolve) => server.close(resolve))
    },
  }
}

/** Accepts and says nothing, or greets like another service and then says nothing more. */
export const silentHost = (greeting = ''): Promise<HostileListener> =>
  listen((socket) => {
    if (greeting) socket.write(greeting)
    socket.resume()
  })

/** Passes bytes on to a real host, and cuts each connection after so many of them have come back. */
export const cuttingHost = (toPort: number, bytesBack: number): Promise<HostileListener> =>
  listen((socket) => {
    const host = net.connect({ port: toPort, host: '127.0.0.1', noDelay: true })
    host.on('error', () => socket.destroy())
    host.on('close', () => socket.destroy())
    socket.on('close', () => host.destroy())
    socket.pipe(host)
    let left = bytesBack
    host.on('data', (data: Buffer) => {
      if (data.length < left) {
        left -= data.length
        socket.write(data)
        return
      }
      socket.write(data.subarray(0, left), () => socket.destroy())
      host.destroy()
    })
  })

/** A way to a real host that passes everything on, until it is told to cut after so many more bytes have gone there. */
export async function breakableWay(
  toPort: number,
): Promise<HostileListener & { cutAfter: (bytesThere: number | null) => void }> {
  let left: number | null = null
  const open = new Set<net.Socket>()
  const listener = await listen((socket) => {
    const host = net.connect({ port: toPort, host: '127.0.0.1', noDelay: true })
    for (const one of [socket, host]) {
      open.add(one)
      one.on('error', () => {})
      one.on('close', () => {
        open.delete(one)
        socket.destroy()
        host.destroy()
      })
    }
    host.pipe(socket)
    socket.on('data', (data: Buffer) => {
      if (left === null || data.length < left) {
        if (left !== null) left -= data.length
        host.write(data)
        return
      }
      const last = data.subarray(0, left)
      left = null
      host.write(last, () => {
        for (const one of open) one.destroy()
      })
    })
  })
  return { ...listener, cutAfter: (bytesThere) => void (left = bytesThere) }
}
