import { useEffect, useState } from 'react'

const keyOf = (name: string) => `rubricant note ${name}`

function read(name: string): string {
  try {
    return sessionStorage.getItem(keyOf(name)) ?? ''
  } catch {
    return ''
  }
}

function keep(name: string, text: string): void {
  try {
    if (text === '') sessionStorage.removeItem(keyOf(name))
    else sessionStorage.setItem(keyOf(name), text)
  } catch {
    // A browser that keeps nothing has it for as long as it is shown.
  }
}

/**
 * A text that is being written and not sent yet, in the storage of its tab: whoever looks something up on another page meanwhile,
 * or loads the window again, finds it as it was.
 * @param name what it is about
 */
export function useKeptText(name: string): readonly [string, (text: string) => void] {
  const [text, setText] = useState('')
  // The browser's storage is not there on the server.
  useEffect(() => setText(read(name)), [name])
  const write = (next: string) => {
    setText(next)
    keep(name, next)
  }
  return [text, write]
}
