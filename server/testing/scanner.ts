import net from 'node:net'
import type { AddressInfo } from 'node:net'

/** What a program that looks files through finds harmful, here. */
export const harmful = 'WRECKERS-LIGHT-ON-THE-SKERRY'

/** How it does its work. */
export type ScannerWays = 'well' | 'hangs up' | 'says nothing of use'

/** A stand-in for a program that looks files through, with what is spoken to it checked as it comes. */
export interface StandInScanner {
  readonly port: number
  readonly at: string
  ways: ScannerWays
  /** Bytes that it takes of one file. */
  most: number
  /** How large each file was that it has seen to its end. */
  readonly seen: number[]
  close(): Promise<void>
}

export async function startScanner(at = 0): Promise<StandInScanner> {
  const open = new Set<net.Socket>()
  const scanner = { ways: 'well' as ScannerWays, most: 50_000_000, seen: [] as number[] }
  const server = net.createServer((socket) => {
    open.add(socket)
    socket.on('close', () => open.delete(socket))
    socket.on('error', () => {})
    let waiting = Buffer.alloc(0)
    let isGreeted = false
    let held = Buffer.alloc(0)
    socket.on('data', (piece: Buffer) => {
      waiting = Buffer.concat([waiting, piece])
      const greeting = Buffer.from('zINSTREAM\0')
      if (!isGreeted) {
        if (waiting.length < greeting.length) return
        if (!waiting.subarray(0, greeting.length).equals(greeting))
          return void socket.end('UNKNOWN COMMAND\0')
        waiting = waiting.subarray(greeting.length)
        isGreeted = true
        if (scanner.ways === 'hangs up') return void socket.destroy()
      }
      while (waiting.length >= 4) {
        const length = waiting.readUInt32BE(0)
        if (length === 0) {
          scanner.seen.push(held.length)
          if (scanner.ways === 'says nothing of use') return void socket.end('PONG\0')
          return void socket.end(
            held.includes(harmful) ? 'stream: Wrecker.Lantern-1 FOUND\0' : 'stream: OK\0',
          )
        }
        if (waiting.length < 4 + length) return
        held = Buffer.concat([held, waiting.subarray(4, 4 + length)])
        waiting = waiting.subarray(4 + length)
        if (held.length > scanner.most) return void socket.end('INSTREAM size limit exceeded. ERROR\0')
      }
    })
  })
  await new Promise<void>((resolve) => server.listen(at, '127.0.0.1', resolve))
  const { port } = server.address() as AddressInfo
  return Object.assign(scanner, {
    port,
    at: `127.0.0.1:${port}`,
    close: async () => {
      for (const socket of open) socket.destroy()
      if (server.listening) await new Promise((resolve) => server.close(resolve))
    },
  })
}
