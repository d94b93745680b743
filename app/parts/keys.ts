import { useSyncExternalStore } from 'react'

/** What keyboards of one maker have in place of each key, and print on it. */
const onApple: readonly (readonly [string, string])[] = [
  ['Ctrl+', '⌘'],
  ['Alt+', '⌥'],
  ['Shift+', '⇧'],
  ['Delete', '⌫'],
]
const isApple = () => /Mac|iPhone|iPad|iPod/.test(navigator.platform)
const never = () => () => undefined

/** Says keys as the keyboard at hand has them: `Ctrl+Z` is `⌘Z` where that does the same. */
export function useKeys(): (keys: string) => string {
  // The server does not know the keyboard.
  const isOnApple = useSyncExternalStore(never, isApple, () => false)
  return (keys) =>
    isOnApple ? onApple.reduce((told, [key, name]) => told.replaceAll(key, name), keys) : keys
}
