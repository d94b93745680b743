import { type KeyboardEvent, useEffect, useRef } from 'react'

interface Props {
  /** What is typed here, for a screen reader. */
  readonly name: string
  readonly value: string
  /** The label as typed, and the key that ended it; `blur` when the focus went elsewhere. */
  readonly onDone: (label: string, key: 'Enter' | 'Tab' | 'blur') => void
  readonly onCancel: () => void
  /** The label so far, at each letter; null once the typing has ended in whatever way. */
  readonly onTyping: (label: string | null) => void
  /** The label so far, whenever the typing pauses. */
  readonly onPause?: (label: string) => void
  /** Tab and Shift+Tab change the level; without it Tab ends the typing. */
  readonly onLevel?: (out: boolean) => void
}

/** Shorter than a typist takes to look up, longer than one takes between two keys. */
const pauseMs = 150

/** A page's label being typed in its row. Enter keeps it, Escape leaves it as it was. */
export function LabelInput({ name, value, onDone, onCancel, onTyping, onPause, onLevel }: Props) {
  const input = useRef<HTMLInputElement>(null)
  // Set once ended, so that the blur that follows does not end it again.
  const ended = useRef(false)
  useEffect(() => {
    input.current?.focus()
    input.current?.select()
  }, [])

  const pause = useRef<ReturnType<typeof setTimeout>>(undefined)
  useEffect(() => () => clearTimeout(pause.current), [])
  const typing = useRef(onTyping)
  useEffect(() => {
    typing.current = onTyping
  })
  useEffect(() => () => typing.current(null), [])

  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    event.stopPropagation()
    // While an input method composes, Enter belongs to it.
    if (event.nativeEvent.isComposing) return
    const label = event.currentTarget.value.trim()
    if (event.key === 'Enter') {
      event.preventDefault()
      onTyping(null)
      onDone(label, 'Enter')
      event.currentTarget.value = ''
    } else if (event.key === 'Escape') {
      event.preventDefault()
      ended.current = true
      onTyping(null)
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
      dir="auto"
      className="mr-2 min-w-0 grow border-b border-lapis bg-paper px-1 outline-none"
      onKeyDown={onKeyDown}
      onInput={({ currentTarget }) => {
        clearTimeout(pause.current)
        onTyping(currentTarget.value.trim())
        if (onPause) pause.current = setTimeout(() => onPause(currentTarget.value.trim()), pauseMs)
      }}
      onBlur={(event) => {
        onTyping(null)
        if (!ended.current) onDone(event.currentTarget.value.trim(), 'blur')
      }}
    />
  )
}
