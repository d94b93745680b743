import { useEffect, useRef, useState } from 'react'
import { beforeNextTry, isUnfetched } from '../parts/fetched'
import { useStableActions } from '../parts/use-stable-actions'
import type { Task, ToWorker } from './questions'

export interface WorkerAnswer<Answer> {
  /** Null before the first. While a later one is worked out the earlier one stands, so that nothing jumps. */
  readonly answer: Answer | null
  /** Whether it answers exactly what is asked now. */
  readonly isCurrent: boolean
}

/**
 * Has something worked out beside the interface. One question is with the worker at a time; of those
 * that come meanwhile only the latest is asked. Taking the question back ends what the worker was at.
 * @param task what the worker answers, one of `answers`
 * @param ground what answers rest on, sent when it is another object; null until answers may be needed
 * @param question null while there is none
 */
export function useWorker<Ground, Question, Answer>(
  task: Task,
  ground: Ground | null,
  question: Question | null,
): WorkerAnswer<Answer> {
  type Asked = { readonly ground: Ground; readonly question: Question }
  const running = useRef<Running<Ground, Asked>>(null)
  const [found, setFound] = useState<(Asked & { readonly answer: Answer }) | null>(null)
  const [failure, setFailure] = useState<Error | null>(null)
  /** How often its program could not be fetched since it last answered, and the wait for the next try. */
  const tries = useRef(0)
  const waiting = useRef<Promise<void>>(null)
  const [tried, setTried] = useState(0)
  // What went wrong in the worker is shown where a failure of the interface is.
  if (failure) throw failure
  // An answer to a question of long ago says nothing about the next one.
  if (question === null && found) setFound(null)

  const { stop } = useStableActions({
    stop: () => {
      running.current?.worker.terminate()
      running.current = null
    },
  })
  useEffect(() => {
    if (ground === null || (question === null && running.current?.at)) stop()
    if (ground === null || waiting.current) return
    const one = (running.current ??= { worker: start(task), ground: null, at: null, next: null })
    const send = (data: ToWorker<Ground, Question>) => one.worker.postMessage(data)
    const ask = (asked: Asked) => {
      if (one.ground !== asked.ground) send({ kind: 'ground', ground: asked.ground })
      send({ kind: 'question', question: asked.question })
      Object.assign(one, { ground: asked.ground, at: asked, next: null })
    }
    one.worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      tries.current = 0
      setFound({ ...one.at!, answer: data })
      one.at = null
      if (one.next) ask(one.next)
    }
    one.worker.onerror = ({ message }: Partial<ErrorEvent>) => {
      if (!isUnfetched(message)) return setFailure(new Error(message))
      // Its program is not here yet. It is asked for again: a view never goes for want of what it shows beside the text.
      stop()
      waiting.current ??= beforeNextTry(tries.current++).then(() => {
        waiting.current = null
        setTried((nth) => nth + 1)
      })
    }
    if (question === null) return
    if (one.at) one.next = { ground, question }
    else ask({ ground, question })
  }, [task, stop, ground, question, tried])
  useEffect(() => stop, [stop])

  if (question === null || found === null) return { answer: null, isCurrent: false }
  return { answer: found.answer, isCurrent: found.ground === ground && found.question === question }
}

const start = (name: Task) =>
  new Worker(new URL('./answer.worker.ts', import.meta.url), { type: 'module', name })

/** A worker, the ground it has, the question it is at and the one that waits. */
interface Running<Ground, Asked> {
  readonly worker: Worker
  ground: Ground | null
  at: Asked | null
  next: Asked | null
}
