import { ArrowDown, ArrowUp, IndentDecrease, IndentIncrease } from 'lucide-react'
import { type KeyboardEvent, memo, useCallback, useEffect, useRef, useState } from 'react'
import type { BringingView } from '#server/bringing'
import { Path } from '../parts/path'
import { type Move, moveLine } from './correct-lines'

type Line = BringingView['lines'][number]

const marks = {
  same: { words: 'as it was', look: 'text-quiet' },
  spaces: { words: 'shown as it was', look: 'text-quiet' },
  menus: { words: 'but for menus', look: 'text-quiet' },
  otherwise: { words: 'otherwise', look: 'text-ochre' },
  here: { words: 'here already', look: 'text-faint' },
  framed: { words: 'in this template', look: 'text-quiet' },
} as const

const moves: readonly { move: Move; key: string; words: string; Icon: typeof ArrowUp }[] = [
  { move: 'out', key: 'ArrowLeft', words: 'Move out', Icon: IndentDecrease },
  { move: 'in', key: 'ArrowRight', words: 'Move in, below the line before', Icon: IndentIncrease },
  { move: 'up', key: 'ArrowUp', words: 'Move up', Icon: ArrowUp },
  { move: 'down', key: 'ArrowDown', words: 'Move down', Icon: ArrowDown },
]

/**
 * The plan that was found, each page with where it stood and stands.
 * @param onCorrect gets the lines as they are corrected; null where they are only looked at
 */
export function FoundPlan({
  lines,
  onCorrect,
}: {
  lines: readonly Line[]
  onCorrect: ((lines: readonly Line[]) => void) | null
}) {
  const [active, setActive] = useState<string | null>(null)
  const list = useRef<HTMLOListElement>(null)
  /** Where the next drawing puts the focus: a row that moves loses it. */
  const focusOn = useRef<string | null>(null)
  useEffect(() => {
    if (focusOn.current === null) return
    const row = [...(list.current?.children ?? [])].find(
      (one) => one.getAttribute('data-was') === focusOn.current,
    )
    row?.querySelector('input')?.focus()
    focusOn.current = null
  }, [lines])
  const now = useRef({ lines, onCorrect })
  now.current = { lines, onCorrect }
  const correct = useCallback((was: string, label: string, where: Move | null) => {
    const { lines: before, onCorrect: told } = now.current
    const named = before.map((line) => (line.was === was ? { ...line, label } : line))
    const index = named.findIndex((line) => line.was === was)
    const made = where === null ? null : moveLine(named, index, where)
    if (!told || (!made && named[index]!.label === before[index]!.label)) return
    if (made) focusOn.current = was
    told(made?.lines ?? named)
  }, [])
  return (
    <ol aria-label="The plan that was found" className="border-t border-rule" ref={list}>
      {lines.map((line, index) => (
        <FoundLine
          key={line.was}
          line={line}
          isHome={index === 0}
          isActive={active === line.was}
          isEditable={onCorrect !== null}
          onActive={setActive}
          onCorrect={correct}
        />
      ))}
    </ol>
  )
}

const FoundLine = memo(function FoundLine({
  line: { label, depth, was, path, outcome, isAnew },
  isHome,
  isActive,
  isEditable,
  onActive,
  onCorrect,
}: {
  line: Line
  isHome: boolean
  isActive: boolean
  isEditable: boolean
  onActive: (was: string) => void
  /** Called otherwise, moved, or both. */
  onCorrect: (was: string, label: string, move: Move | null) => void
}) {
  const [typed, setTyped] = useState<string | null>(null)
  const correct = (move: Move | null) => {
    onCorrect(was, typed?.trim() || label, move)
    setTyped(null)
  }
  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    const asked = event.altKey && !isHome ? moves.find(({ key }) => key === event.key) : undefined
    if (asked) {
      event.preventDefault()
      correct(asked.move)
    } else if (event.key === 'Enter') correct(null)
    else if (event.key === 'Escape') setTyped(null)
  }
  return (
    <li
      data-was={was}
      onPointerEnter={isEditable ? () => onActive(was) : undefined}
      onFocus={isEditable ? () => onActive(was) : undefined}
      className={`${outcome === 'here' ? 'text-quiet ' : ''}folds grid grid-cols-[minmax(0,1fr)_minmax(0,14rem)_6.5rem] items-center gap-4 border-b border-rule/50 leading-8`}
    >
      <span className="flex min-w-0 items-center">
        {Array.from({ length: Math.min(depth, 12) }, (_, level) => (
          <span key={level} className="ml-1.5 h-8 w-4 shrink-0 border-l border-rule" />
        ))}
        {isEditable ? (
          <input
            className="min-w-0 flex-1 truncate rounded-[3px] bg-transparent px-1 hover:bg-vellum focus:bg-paper"
            aria-label={`Label of ${was}`}
            value={typed ?? label}
            maxLength={200}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={() => correct(null)}
            onKeyDown={onKeyDown}
          />
        ) : (
          <span className="truncate">{label}</span>
        )}
        {isActive && !isHome && (
          <span className="flex shrink-0">
            {moves.map(({ move, words, Icon }) => (
              <button
                key={move}
                type="button"
                tabIndex={-1}
                className="rounded-[3px] p-1 text-quiet hover:bg-vellum hover:text-ink"
                aria-label={`${words}: ${label}`}
                title={words}
                onClick={() => correct(move)}
              >
                <Icon size={15} aria-hidden />
              </button>
            ))}
          </span>
        )}
      </span>
      <span className="min-w-0 truncate text-sm" title={was === path ? was : `${was}, now ${path}`}>
        <Path path={path} />
        {was !== path && <span className="text-ochre"> was {was}</span>}
      </span>
      <span className={`text-sm ${marks[outcome].look}`}>{isAnew ? 'replaced' : marks[outcome].words}</span>
    </li>
  )
})
