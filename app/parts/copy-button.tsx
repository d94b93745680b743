import { useEffect, useState } from 'react'
import { Button } from './button'
import { useKeys } from './keys'

/** How long it is told what became of it. */
const toldMs = 4_000

/** Puts a text on the clipboard; false where the browser does not let it. */
async function copy(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text)
    return true
  } catch {
    // Without leave, or over plain HTTP, where there is no such clipboard: the older way is left.
  }
  const give = (event: ClipboardEvent) => {
    event.clipboardData?.setData('text/plain', text)
    event.preventDefault()
    event.stopImmediatePropagation()
  }
  addEventListener('copy', give, true)
  try {
    return document.execCommand('copy')
  } finally {
    removeEventListener('copy', give, true)
  }
}

/** Copies a text, and says for a while whether it is on the clipboard now. */
export function CopyButton({
  text,
  words = 'Copy',
  isLink = false,
}: {
  /** Null while it is not known yet. */
  text: string | null
  words?: string
  isLink?: boolean
}) {
  const [told, setTold] = useState<{ of: string; isCopied: boolean } | null>(null)
  useEffect(() => {
    if (!told) return
    const ends = setTimeout(() => setTold(null), toldMs)
    return () => clearTimeout(ends)
  }, [told])
  const keysHere = useKeys()
  const shown = told?.of === text ? told : null
  const asked = {
    disabled: text === null,
    onClick: () => void copy(text!).then((isCopied) => setTold({ of: text!, isCopied })),
    children: shown?.isCopied ? 'Copied' : words,
  }
  return (
    <>
      {isLink ? <button type="button" className="link" {...asked} /> : <Button {...asked} />}
      <span role="status" className={shown && !shown.isCopied ? 'text-sm text-rubric' : 'sr-only'}>
        {shown &&
          (shown.isCopied
            ? 'Copied'
            : `The browser does not let it: choose the text and press ${keysHere('Ctrl+C')}.`)}
      </span>
    </>
  )
}
