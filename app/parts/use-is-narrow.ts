import { useSyncExternalStore } from 'react'

/** A window as wide as a phone, or one that is enlarged as far (WCAG 2.2, 1.4.10): what stands side by side stands one above the other. */
const narrow = '(width < 40rem)'

export const useIsNarrow = (): boolean =>
  useSyncExternalStore(
    (onChange) => {
      const query = matchMedia(narrow)
      query.addEventListener('change', onChange)
      return () => query.removeEventListener('change', onChange)
    },
    () => matchMedia(narrow).matches,
    () => false,
  )
