import { useCallback, useEffect, useRef, useState } from 'react'
import { readProgress } from './read-progress'

/** How far a long work is. */
export type LongWork =
  | { readonly state: 'idle'; readonly problem: string | null }
  | { readonly state: 'running'; readonly done: number; readonly all: number }

const idle: LongWork = { state: 'idle', problem: null }
const noAnswer = 'The connection was lost. What was found so far is kept; go on in a moment.'

/**
 * Asks the server for work that takes a while and tells how far it is; it ends when it is cancelled, and when
 * its view is left.
 * @param onEnd called when it has ended, done or cancelled, with what it yields, if it does
 */
export function useLongWork(address: string, onEnd: (result?: unknown) => void) {
  const [work, setWork] = useState<LongWork>(idle)
  const running = useRef<AbortController | null>(null)
  useEffect(() => () => running.current?.abort(), [])

  const start = useCallback(async () => {
    if (running.current) return
    const controller = new AbortController()
    running.current = controller
    setWork({ state: 'running', done: 0, all: 0 })
    let problem: string | null = null
    let result: unknown
    try {
      const response = await fetch(address, { method: 'POST', signal: controller.signal })
      if (!response.ok || !response.body) throw new TypeError(response.statusText)
      const told = await readProgress(response.body, (done, all) => setWork({ state: 'running', done, all }))
      if (told === null) problem = noAnswer
      else if ('problem' in told) ({ problem } = told)
      else ({ result } = told)
    } catch {
      if (!controller.signal.aborted) problem = noAnswer
    }
    running.current = null
    setWork({ state: 'idle', problem })
    onEnd(result)
  }, [address, onEnd])
  const cancel = useCallback(() => running.current?.abort(), [])
  return { work, start, cancel }
}
