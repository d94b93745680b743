import { MessageChannel } from 'node:worker_threads'
import type { Piscina } from 'piscina'
import { threadsOf } from '#server/platform'
import type { FileToRead } from './brought-file'
import { PackedTexts } from './packed-texts'
import type { FromThread, ToThread, UnderstandAnswer, UnderstandTask } from './understand.worker'

type Threads = Piscina<UnderstandTask, UnderstandAnswer>
// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantBringers?: Partial<Record<Room, Threads>> }

/**
 * Memory that a thread may take. What may take much is let grow by half before it is looked through for what is of no use any
 * more (V8), so that nearly all sites are understood with little, and those for which that is not enough once more with much.
 */
export const roomMb = { lean: 500, ample: 1_500 }
type Room = keyof typeof roomMb

const threads = (room: Room): Threads =>
  ((globals.rubricantBringers ??= {})[room] ??= threadsOf('server/bringing/understand.worker.ts', {
    threads: 1,
    memoryMb: roomMb[room],
    youngMb: 12,
    waiting: 20,
  }))

export async function endBringers(): Promise<void> {
  await Promise.all(Object.values(globals.rubricantBringers ?? {}).map((one) => one.destroy()))
  globals.rubricantBringers = undefined
}

/** Who waits for it: how far it is, and that they wait no more. */
export interface Watch {
  readonly signal?: AbortSignal
  readonly tell?: (done: number, all: number) => void
}

export type Understanding =
  | Extract<UnderstandAnswer, { refusal: string }>
  | (Exclude<UnderstandAnswer, { refusal: string }> & {
      /** Texts that were made, in UTF-8. */
      readonly texts: PackedTexts
    })

/** Files that could not be read: what is wrong is not that they are too much. */
export class Unread extends Error {}

const isOutOfMemory = (error: unknown) =>
  error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY'

/**
 * Has a thread understand files, which it is handed as it asks for them. Nothing of their texts stays here meanwhile: the thread has
 * its own, and twice a site of a hundred megabytes is much.
 * @param portions the files from the first on, each time it is called
 * @throws Unread where files cannot be read, and whatever ends the thread
 */
export function understandInThread(
  task: Omit<UnderstandTask, 'port'>,
  portions: () => AsyncIterable<readonly FileToRead[]>,
  watch: Watch,
): Promise<Understanding> {
  return understandIn('lean', task, portions(), watch).catch((error: unknown) => {
    if (!isOutOfMemory(error)) throw error
    watch.signal?.throwIfAborted()
    return understandIn('ample', task, portions(), watch)
  })
}

async function understandIn(
  room: Room,
  task: Omit<UnderstandTask, 'port'>,
  portions: AsyncIterable<readonly FileToRead[]>,
  { signal, tell }: Watch,
): Promise<Understanding> {
  const { port1, port2 } = new MessageChannel()
  const files = portions[Symbol.asyncIterator]()
  const texts = new PackedTexts()
  const failed = new AbortController()
  const answer = (message: ToThread) => port1.postMessage(message)
  const handOver = async () => {
    const { done, value } = await files.next()
    answer(done ? null : value)
  }
  port1.on('message', (message: FromThread) => {
    if (message.kind === 'progress') tell?.(message.done, message.all)
    else if (message.kind === 'texts') {
      const { bytes, places } = message.texts
      for (const [hash, at, size, length] of places)
        texts.set(hash, { bytes: Buffer.from(bytes.buffer, at, size), length })
      answer(null)
    } else handOver().catch((error: unknown) => failed.abort(new Unread('', { cause: error })))
  })
  try {
    const understood = await threads(room).run(
      { ...task, port: port2 },
      { signal: AbortSignal.any([failed.signal, ...(signal ? [signal] : [])]), transferList: [port2] },
    )
    return 'refusal' in understood ? understood : { ...understood, texts }
  } catch (error) {
    failed.signal.throwIfAborted()
    throw error
  } finally {
    port1.close()
    await files.return?.()
  }
}
