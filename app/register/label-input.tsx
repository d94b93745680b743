import { type KeyboardEvent, useEffect, useRef } from 'react'

interface Props {
  /** What is typed here, for a screen reader. */
  readonly name: string
  readonly value: string
  /** The label as typed, and the key that ended it; `blur` when the focus went elsewhere. */
  readonly onDone: (label: string, key: 'Enter' | 'Tab' | 'blur') => void
  readonly onCancel: () => void
  /** Tab and Shift+Tab change the level; without it Tab ends the typing. */
  readonly onLevel?: (out: boolean) => void
}

/** A page's label being typed in its row. Enter keeps it, Escape leaves it as it was. */
export function LabelInput({ name, value, onDone, onCancel, onLevel }: Props) {
  const input = useRef<HTMLInputElement>(null)
  // Set once ended, so that the blur that follows does not end it again.
  const ended = useRef(false)
  useEffect(() => {
    input.current?.focus()
    input.current?.select()
  }, [])

  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    event.stopPropagation()
    // While an input method composes, Enter belongs to it.
    if (event.nativeEvent.isComposing) return
    const label = event.currentTarget.value.trim()
    if (event.key === 'Enter') {
      event.preventDefault()
      onDone(label, 'Enter')
      event.currentTarget.value = ''
    } else if (event.key === 'Escape') {
      event.preventDefault()
      ended.current = true
      onCancel()
    } else if (event.key === 'Tab' && onLevel) {
      event.preventDefault()
      onLevel(event.shiftKey)
    }
  }
  return (
    <input
      ref={input}
      aria-label={name}
      defaultValue={value}
      maxLength={500}
      className="mr-2 min-w-0 grow border-b border-lapis bg-paper px-1 outline-none"
      onKeyDown={onKeyDown}
      onBlur={(event) => {
        if (!ended.current) onDone(event.currentTarget.value.trim(), 'blur')
      }}
    />
  )
}
