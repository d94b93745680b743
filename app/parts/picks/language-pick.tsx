import { languageName, tagTyped } from '#core/language'
import { WritePick } from './write-pick'

/** A language as words of a sentence; it is written as its tag, or by its name in English or in itself. */
export function LanguagePick({
  label,
  words,
  value,
  empty,
  offers = [],
  hint = '',
  isCommand,
  refuse,
  go,
  onWrite,
  after,
}: {
  label: string
  words: string
  /** Its tag; '' for none. */
  value: string
  /** What none means, where there may be none. */
  empty?: string
  /** Tags that may be meant. */
  offers?: readonly string[]
  /** What choosing one does, as a sentence. */
  hint?: string
  /** Why one cannot be chosen, or null. */
  refuse?: (tag: string) => string | null
  go?: string
  /** Whether it does something, and stands there as a command. */
  isCommand?: boolean
  onWrite: (tag: string) => void
  after?: string
}) {
  return (
    <WritePick
      label={label}
      words={words}
      value={value === '' ? '' : languageName(value)}
      offers={offers.map(languageName)}
      hint={`Its name, or its tag: de for German, pt-BR for the Portuguese of Brazil.${empty ? ` ${empty}` : ''}${hint && ` ${hint}`}`}
      check={(typed) => {
        if (typed.trim() === '') return empty ? null : 'Name a language.'
        const tag = tagOf(typed, [value, ...offers])
        return tag === null ? 'No language is called that.' : (refuse?.(tag) ?? null)
      }}
      onWrite={(typed) => onWrite(typed.trim() === '' ? '' : tagOf(typed, [value, ...offers])!)}
      go={go}
      isCommand={isCommand}
      after={after}
    />
  )
}

/** Names of tags that are shown here, such as “Brazilian Portuguese”, are understood as well. */
const tagOf = (typed: string, shown: readonly string[]): string | null =>
  shown.find((tag) => tag !== '' && languageName(tag) === typed.trim()) ?? tagTyped(typed)
