import { useEffect } from 'react'

interface EarlyWindow {
  /** Ends the keeping, and returns what was clicked on until then, in order. */
  takeEarlyClicks?: () => readonly HTMLElement[]
}

/**
 * A program for the head of the document: keeps what is clicked on before the window's own program is there,
 * on a slow line for seconds. Links and forms work without it and are left alone.
 */
export const keepEarlyClicks = `{
  const kept = []
  const keep = ({ target }) => {
    const clicked = target.closest?.('button, [role="row"]')
    if (!clicked || clicked.closest('a') || (clicked.form && clicked.type === 'submit')) return
    // Who clicks again because nothing happens means it once.
    if (kept.at(-1) !== clicked && kept.length < 20) kept.push(clicked)
  }
  addEventListener('click', keep, true)
  window.takeEarlyClicks = () => {
    removeEventListener('click', keep, true)
    return kept.splice(0)
  }
}`

/** What was clicked on, or what stands in its place where the window's program drew it anew. */
function stillThere(element: HTMLElement): HTMLElement | undefined {
  if (element.isConnected) return element
  const label = (one: Element) => one.getAttribute('aria-label') ?? one.textContent
  const alike = document.querySelectorAll<HTMLElement>(element.tagName)
  return [...alike].find((one) => label(one) === label(element))
}

/** Does what was clicked on too early, once there is somebody to hear it. */
export function useEarlyClicks(): void {
  useEffect(() => {
    const clicked = (window as EarlyWindow).takeEarlyClicks?.() ?? []
    for (const element of clicked) stillThere(element)?.click()
  }, [])
}
