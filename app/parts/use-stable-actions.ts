import { useLayoutEffect, useRef, useState } from 'react'

/**
 * The same functions for as long as the component stands, each doing what its latest version does: for
 * parts that are remembered as they are and still act on the state of the moment.
 */
export function useStableActions<T extends object>(latest: T): T {
  const current = useRef(latest)
  useLayoutEffect(() => {
    current.current = latest
  })
  const [stable] = useState(() => {
    const call =
      (name: string) =>
      (...args: unknown[]) =>
        (current.current as Record<string, (...args: unknown[]) => unknown>)[name]!(...args)
    return Object.fromEntries(Object.keys(latest).map((name) => [name, call(name)])) as T
  })
  return stable
}
