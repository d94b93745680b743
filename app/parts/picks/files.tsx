import { type DragEvent, useRef } from 'react'

/** Hands a file to the browser to save. */
export function saveFile(content: Blob | string, name: string, mediaType = 'text/plain'): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(
    typeof content === 'string' ? new Blob([content], { type: mediaType }) : content,
  )
  link.download = name
  link.click()
  // The download has begun by then; the address is of no further use.
  setTimeout(() => URL.revokeObjectURL(link.href), 1_000)
}

/** What an element is given that a file can be dropped on, an editor in it or not. */
export const takingDropped = (onFile: (file: File) => void) => ({
  onDragOver: (event: DragEvent) => {
    if (event.dataTransfer.types.includes('Files')) event.preventDefault()
  },
  // Before an editor takes the bytes of a file for words.
  onDropCapture: (event: DragEvent) => {
    const [dropped] = event.dataTransfer.files
    if (!dropped) return
    event.preventDefault()
    event.stopPropagation()
    onFile(dropped)
  },
})

/** Words that open the browser's choice of a file. */
export function FileButton({
  words,
  accept,
  onFile,
}: {
  words: string
  accept: string
  onFile: (file: File) => void
}) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <button type="button" className="link text-sm whitespace-nowrap" onClick={() => input.current?.click()}>
        {words}
      </button>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={`${words}: the file`}
        accept={accept}
        onChange={(event) => {
          const chosen = event.target.files?.[0]
          // The same file may be chosen again after it was changed.
          event.target.value = ''
          if (chosen) onFile(chosen)
        }}
      />
    </>
  )
}
