interface NavigateEvent extends Event {
  readonly navigationType: 'push' | 'reload' | 'replace' | 'traverse'
  readonly userInitiated: boolean
}

/**
 * Where the program of a route cannot be fetched the router loads the whole window anew, which without a line ends in the
 * browser's own page of errors. That waits until the line is back, and what is typed meanwhile goes on being kept
 * (HTML, the navigation API; without it the window is loaded at once).
 */
export function stayWithoutLine(): void {
  const { navigation } = window as { navigation?: EventTarget }
  navigation?.addEventListener('navigate', (event) => {
    const { navigationType, userInitiated } = event as NavigateEvent
    if (navigationType !== 'reload' || userInitiated || navigator.onLine || !event.cancelable) return
    event.preventDefault()
    addEventListener('online', () => location.reload(), { once: true })
  })
}
