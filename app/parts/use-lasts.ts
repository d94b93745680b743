import { useEffect, useState } from 'react'

/** Whether something has gone on for a while: what is over sooner needs no word, and moves nothing. */
export function useLasts(isRunning: boolean, afterMs: number): boolean {
  const [lasts, setLasts] = useState(false)
  useEffect(() => {
    if (!isRunning) return
    const timer = setTimeout(() => setLasts(true), afterMs)
    return () => {
      clearTimeout(timer)
      setLasts(false)
    }
  }, [isRunning, afterMs])
  return lasts
}
