import { useEffect } from 'react'

/** Has the browser ask before the window is closed (HTML, the beforeunload event), for as long as something would be lost with it. */
export function useAsksBeforeLeaving(wouldLose: boolean): void {
  useEffect(() => {
    if (!wouldLose) return
    const warn = (event: BeforeUnloadEvent) => event.preventDefault()
    addEventListener('beforeunload', warn)
    return () => removeEventListener('beforeunload', warn)
  }, [wouldLose])
}
