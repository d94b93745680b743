import { Readable } from 'node:stream'
import { setTimeout as pause } from 'node:timers/promises'
import type { Client } from 'basic-ftp'
import type { Pieces } from '#server/contents'
import type { OnSent } from './transport'

/** Bytes of a file that are handed over at a time: how far it has come is known as often, on a line of any speed. */
const stretchBytes = 32_768
/** How long the connection of an empty file stays open. */
const emptyMs = 100
/** Bytes of a file that the system may still hold when the last was handed over to it, and how slow a line is waited for. */
const mostHeldBytes = 4_000_000
const slowestBytesPerMs = 16

/** What went wrong with the pieces of a file, which is no fault of the host's. */
export class PiecesError extends Error {}

/**
 * Writes a file over a connection of its own.
 * @param wire what it is called, as the host takes it
 * @param stretchMs how long one stretch of it may take, or the host's last word: the file may be of any size, and the line slow
 * @param onHang called when one took longer
 * @throws PiecesError with what the pieces threw as its cause; else what the library throws
 */
export async function uploadOver(
  client: Client,
  wire: string,
  pieces: Pieces,
  { stretchMs, onHang, onSent }: { stretchMs: number; onHang: () => void; onSent: OnSent },
): Promise<void> {
  let timer = setTimeout(onHang, stretchMs)
  // The library waits as long for what comes over the control connection.
  const context = client.ftp as { timeout: number }
  const usual = context.timeout
  let ours: PiecesError | null = null
  async function* inStretches() {
    let sent = 0
    // What ends the connection is thrown in where it took the last stretch.
    let isTaken = false
    try {
      for await (const piece of pieces)
        for (let from = 0; from < piece.byteLength; from += stretchBytes) {
          const stretch = piece.subarray(from, from + stretchBytes)
          isTaken = true
          yield stretch
          isTaken = false
          timer.refresh()
          sent += stretch.byteLength
          onSent(stretch.byteLength)
        }
    } catch (error) {
      if (isTaken) throw error
      throw (ours = new PiecesError('The pieces of a file', { cause: error }))
    }
    // Some servers take the end of TLS for a fault when it comes before they have sent their tickets (RFC 8446 §4.6.1).
    if (sent === 0) await pause(emptyMs)
    // What was handed over is still on its way, over a slow line.
    context.timeout = usual + Math.min(sent, mostHeldBytes) / slowestBytesPerMs
    clearTimeout(timer)
    timer = setTimeout(onHang, stretchMs + context.timeout)
  }
  try {
    await client.uploadFrom(Readable.from(inStretches(), { objectMode: false }), wire)
  } catch (error) {
    throw ours ?? error
  } finally {
    clearTimeout(timer)
    context.timeout = usual
  }
}
