import { MessageChannel } from 'node:worker_threads'
import type { Piscina } from 'piscina'
import type { Hash } from '#core/site'
import { threadsOf } from '#server/platform'
import type { FileToRead } from './brought-file'
import type { FromThread, ToThread, UnderstandAnswer, UnderstandTask } from './understand.worker'

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantBringers?: Piscina<UnderstandTask, UnderstandAnswer> }
const threads = () =>
  (globals.rubricantBringers ??= threadsOf('server/bringing/understand.worker.ts', {
    threads: 1,
    memoryMb: 1_500,
    youngMb: 12,
    waiting: 20,
  }))

export async function endBringers(): Promise<void> {
  await globals.rubricantBringers?.destroy()
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
      /** Texts that were made, in UTF-8, by what names them. */
      readonly texts: ReadonlyMap<Hash, Buffer>
    })

/** Files that could not be read: what is wrong is not that they are too much. */
export class Unread extends Error {}

/**
 * Has a thread understand files, which it is handed as it asks for them. Nothing of their texts stays here meanwhile: the thread has
 * its own, and twice a site of a hundred megabytes is much.
 * @throws Unread where files cannot be read, and whatever ends the thread
 */
export async function understandInThread(
  task: Omit<UnderstandTask, 'port'>,
  portions: AsyncIterable<readonly FileToRead[]>,
  { signal, tell }: Watch,
): Promise<Understanding> {
  const { port1, port2 } = new MessageChannel()
  const files = portions[Symbol.asyncIterator]()
  const texts = new Map<Hash, Buffer>()
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
      for (const [hash, at, length] of places) texts.set(hash, Buffer.from(bytes.buffer, at, length))
      answer(null)
    } else handOver().catch((error: unknown) => failed.abort(new Unread('', { cause: error })))
  })
  try {
    const understood = await threads().run(
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
