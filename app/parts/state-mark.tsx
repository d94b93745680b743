import type { FileState } from '#core/delivery'

/** A state as shape, word and colour; never by colour alone. */
export type MarkState =
  FileState | 'to remove' | 'stray' | 'done' | 'failed' | 'waiting' | 'running' | 'cancelled'

const strokes: Record<'tick' | 'wave' | 'plus' | 'bang' | 'dash' | 'dots', string> = {
  tick: 'M2 6.5 5 9.5 10.500 3',
  wave: 'M1 8.5c2-5 3 3 5-2s3 1 5-3',
  plus: 'M6 1v10M1 6h10',
  bang: 'M6 1v6.400M6 9.400v1.600',
  dash: 'M1.500 6h9',
  dots: 'M1.500 6h1.500M5.300 6h1.500M9 6h1.500',
}

const marks: Record<MarkState, { shape: keyof typeof strokes; colour: string; word: string }> = {
  new: { shape: 'plus', colour: 'text-lapis', word: 'new' },
  changed: { shape: 'wave', colour: 'text-ochre', word: 'changed' },
  same: { shape: 'tick', colour: 'text-verdigris', word: 'same' },
  'changed there': { shape: 'bang', colour: 'text-rubric', word: 'changed there' },
  'gone there': { shape: 'bang', colour: 'text-rubric', word: 'gone there' },
  'other there': { shape: 'bang', colour: 'text-ochre', word: 'a different file' },
  unknown: { shape: 'dots', colour: 'text-quiet', word: 'not compared' },
  'to remove': { shape: 'dash', colour: 'text-ochre', word: 'to remove' },
  stray: { shape: 'dots', colour: 'text-quiet', word: 'stray' },
  done: { shape: 'tick', colour: 'text-verdigris', word: 'done' },
  failed: { shape: 'bang', colour: 'text-rubric', word: 'failed' },
  waiting: { shape: 'dots', colour: 'text-quiet', word: 'waiting' },
  running: { shape: 'wave', colour: 'text-lapis', word: 'under way' },
  cancelled: { shape: 'dash', colour: 'text-ochre', word: 'cancelled' },
}

export function StateMark({ state, word }: { state: MarkState; word?: string }) {
  const mark = marks[state]
  return (
    <span className={`inline-flex items-center gap-1.5 text-sm whitespace-nowrap ${mark.colour}`}>
      <svg viewBox="0 0 12 12" className="size-3 shrink-0" aria-hidden>
        <path d={strokes[mark.shape]} fill="none" stroke="currentColor" strokeWidth="1.8" />
      </svg>
      {word ?? mark.word}
    </span>
  )
}
