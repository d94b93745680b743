import { useEffect, useRef, useState } from 'react'
import type { FoundFolder, FoundProtocol } from '#server/deliveries'
import { away } from '../../parts/away'
import { asJson, isJson } from '../../document/post'
import { readProgress } from '../../parts/read-progress'

export type Finding =
  | { readonly state: 'idle'; readonly problem: string | null }
  | {
      readonly state: 'finding'
      readonly what: 'protocol' | 'folder'
      readonly done: number
      readonly all: number
    }

/** Looks for the way to a host: what it speaks, and the folder there that visitors see. */
export function useFindWay(siteId: string) {
  const [finding, setFinding] = useState<Finding>({ state: 'idle', problem: null })
  const running = useRef<AbortController | null>(null)
  useEffect(() => () => running.current?.abort(), [])

  async function find<T>(what: 'protocol' | 'folder', asked: object): Promise<T | null> {
    running.current?.abort()
    const own = (running.current = new AbortController())
    setFinding({ state: 'finding', what, done: 0, all: 0 })
    let problem: string | null = null
    let result: T | null = null
    try {
      const response = await fetch(`/sites/${siteId}/find-way`, {
        method: 'POST',
        headers: asJson,
        body: JSON.stringify({ what, ...asked }),
        signal: own.signal,
      })
      if (isJson(response)) {
        problem = ((await response.json()) as { problem?: { message: string } }).problem?.message ?? away
      } else {
        if (!response.ok || !response.body) throw new TypeError(response.statusText)
        const ended = await readProgress(response.body, (done, all) =>
          setFinding({ state: 'finding', what, done, all }),
        )
        if (ended === null) problem = away
        else if ('problem' in ended) ({ problem } = ended)
        else result = ended.result as T
      }
    } catch {
      if (!own.signal.aborted) problem = away
    }
    if (running.current === own) setFinding({ state: 'idle', problem })
    return own.signal.aborted ? null : result
  }
  return {
    finding,
    findProtocol: (asked: object) => find<FoundProtocol>('protocol', asked),
    findFolder: (asked: object) => find<FoundFolder>('folder', asked),
    cancel: () => {
      running.current?.abort()
      setFinding({ state: 'idle', problem: null })
    },
  }
}
