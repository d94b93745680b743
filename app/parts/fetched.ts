import { lazy } from 'react'

/** Before what could not be fetched is asked for again, in milliseconds. */
const pauses = [500, 1_000, 2_000, 4_000, 8_000, 15_000]

/** What each engine says where a module could not be fetched, and nothing in it has failed. */
const unfetched = /dynamically imported module|importing a module script failed/i

/** Whether a part of the program could not be fetched. A worker whose own program could not says nothing at all. */
export const isUnfetched = (message: string | undefined): boolean => !message || unfetched.test(message)

/** Waits before the next try, or until the browser says that it is connected again. */
export function beforeNextTry(tries: number): Promise<void> {
  return new Promise((resolve) => {
    const timer = setTimeout(go, pauses[Math.min(tries, pauses.length - 1)])
    addEventListener('online', go)
    function go() {
      clearTimeout(timer)
      removeEventListener('online', go)
      resolve()
    }
  })
}

/** A part of the program, as soon as it can be fetched; one that is not there after half a minute of a connection is not. */
export async function untilFetched<T>(load: () => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++)
    try {
      return await load()
    } catch (error) {
      const isLast = tries >= pauses.length && navigator.onLine
      if (isLast || !(error instanceof Error) || !isUnfetched(error.message)) throw error
      await beforeNextTry(tries)
    }
}

/**
 * A component that is fetched when it is shown first. Where the connection is away at that moment what stands in its place goes
 * on standing there: it never takes the view with it, and what is typed in it.
 */
export const lazily: typeof lazy = (load) => lazy(() => untilFetched(load))
