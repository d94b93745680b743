import { createWriteStream } from 'node:fs'
import { mkdtemp, rm } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { type Entry, openPromise } from 'yauzl'
import { Problem } from '#core/problems'
import type { Pieces } from './store'

/** How much of an archive is taken. */
export interface UnpackLimits {
  /** Bytes of the archive as it comes. */
  readonly packedBytes: number
  /** Bytes of all that is in it. */
  readonly bytes: number
  readonly files: number
}

/** A file of an archive. */
export interface PackedFile {
  /** Its path in the archive, with `/`; never leading out of it. */
  readonly path: string
  readonly sizeBytes: number
  /** Its bytes, to be read before the next file is asked for; @throws Problem `not-an-archive` where they are damaged. */
  readonly pieces: () => AsyncIterable<Buffer>
}

const inMegabytes = (bytes: number) => `${Math.round(bytes / 1_000_000).toLocaleString('en')} MB`

const damaged = (cause: unknown): never => {
  throw new Problem('not-an-archive', null, { cause })
}

/**
 * The files of a ZIP, one after the other and never whole in memory: its list of files stands at its end
 * (APPNOTE 4.3.6), so it waits in a file of its own until it has been read. What an archive says of its
 * sizes is counted against, and checked as it is unpacked.
 * @throws Problem `not-an-archive`, `archive-too-large`
 */
export async function* unpack(body: Pieces, limits: UnpackLimits): AsyncGenerator<PackedFile> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'rubricant-'))
  try {
    const packed = path.join(folder, 'archive.zip')
    await pipeline(Readable.from(counted(body, limits)), createWriteStream(packed))
    const archive = await openPromise(packed, { autoClose: false }).catch(damaged)
    try {
      let bytes = 0
      let files = 0
      for await (const entry of archive.eachEntry()) {
        if (entry.fileName.endsWith('/')) continue
        bytes += entry.uncompressedSize
        files += 1
        if (bytes > limits.bytes || files > limits.files)
          throw new Problem('archive-too-large', {
            most: `${limits.files.toLocaleString('en')} files and ${inMegabytes(limits.bytes)}`,
          })
        yield {
          path: nameOf(entry),
          sizeBytes: entry.uncompressedSize,
          async *pieces() {
            try {
              yield* (await archive.openReadStreamPromise(entry)) as AsyncIterable<Buffer>
            } catch (error) {
              damaged(error)
            }
          },
        }
      }
    } catch (error) {
      if (error instanceof Problem) throw error
      damaged(error)
    } finally {
      archive.close()
    }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/**
 * A name as its archive has it: in UTF-8 where that is said (APPNOTE 4.4.4, bit 11; 4.6.9), and also where it is not
 * said and the bytes are, as several systems write them; else in CP437.
 */
function nameOf({ fileName, fileNameRaw, generalPurposeBitFlag }: Entry): string {
  if ((generalPurposeBitFlag & 0x800) !== 0 || fileNameRaw.every((byte) => byte < 128)) return fileName
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(fileNameRaw).replaceAll('\\', '/')
  } catch {
    return fileName
  }
}

async function* counted(body: Pieces, { packedBytes }: UnpackLimits) {
  let size = 0
  for await (const piece of body) {
    size += piece.byteLength
    if (size > packedBytes) throw new Problem('archive-too-large', { most: inMegabytes(packedBytes) })
    yield piece
  }
}
