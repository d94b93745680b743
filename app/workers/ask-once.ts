import type { Task, ToWorker } from './questions'

/** Nothing that is asked once takes so long; what does is ended. */
const longestMs = 120_000

/**
 * Has one thing worked out beside the interface, by a worker of its own.
 * @throws what the worker fails with, or the signal's reason when it is called off
 */
export function askOnce<Question, Answer>(
  task: Task,
  question: Question,
  signal: AbortSignal,
): Promise<Answer> {
  const worker = new Worker(new URL('./answer.worker.ts', import.meta.url), { type: 'module', name: task })
  const ended = AbortSignal.any([signal, AbortSignal.timeout(longestMs)])
  return new Promise<Answer>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<Answer>) => resolve(data)
    worker.onerror = ({ message }) => reject(new Error(message))
    ended.addEventListener('abort', () => reject(ended.reason as Error), { once: true })
    ended.throwIfAborted()
    worker.postMessage({ kind: 'question', question } satisfies ToWorker<never, Question>)
  }).finally(() => worker.terminate())
}
