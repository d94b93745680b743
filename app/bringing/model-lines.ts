import type { FrameMark, Model, Move } from '#core/bringing'

/** A piece of a line of a template's model: its text, and what stands for it in the template. */
export interface Piece {
  readonly text: string
  /** Null where it is the template's own. */
  readonly by: string | null
}

/** What a model is made of, one below the other. */
export type Block =
  | { readonly kind: 'frame'; readonly lines: readonly (readonly Piece[])[] }
  | {
      readonly kind: 'slot'
      readonly slot: Model['slots'][number] & { readonly name: string }
      readonly lines: readonly string[]
    }

/** What a line begins with up to a place, where that is white space alone. */
function leadAt(text: string, place: number): string {
  const before = text.slice(text.lastIndexOf('\n', place - 1) + 1, place)
  return before.trim() === '' ? before : ''
}

const isBlank = (line: readonly Piece[]) => line.every(({ text, by }) => by === null && text.trim() === '')

/** Lines without those at both ends that show nothing. */
function withoutBlankEnds<T>(lines: readonly T[], shows: (line: T) => boolean): readonly T[] {
  const first = lines.findIndex(shows)
  return first < 0 ? [] : lines.slice(first, lines.findLastIndex(shows) + 1)
}

/** A model as what its template is in it, and the stretches that each page fills in. */
export function blocksOf({ text, slots, written }: Model): Block[] {
  const blocks: Block[] = []
  let lines: Piece[][] = [[]]
  const add = (piece: Piece) => {
    const [first, ...others] = piece.text.split('\n')
    if (first !== '') lines.at(-1)!.push({ ...piece, text: first! })
    for (const line of others) lines.push(line === '' ? [] : [{ ...piece, text: line }])
  }
  const endFrame = () => {
    const shown = withoutBlankEnds(lines, (line) => !isBlank(line))
    if (shown.length > 0) blocks.push({ kind: 'frame', lines: shown })
    lines = [[]]
  }
  const stretches = [
    ...slots.map((slot) => ({ start: slot.start, end: slot.end, slot, by: '{page}' })),
    ...written.map(({ start, end, by }) => ({ start, end, slot: null, by })),
  ].sort((a, b) => a.start - b.start || a.end - b.end)
  let at = 0
  for (const { start, end, slot, by } of stretches) {
    add({ text: text.slice(at, start), by: null })
    const own = text.slice(start, end)
    if (slot !== null && slot.name !== null) {
      endFrame()
      const lead = leadAt(text, start)
      const indented = own.split('\n').map((line) => (line.startsWith(lead) ? line.slice(lead.length) : line))
      blocks.push({ kind: 'slot', slot: { ...slot, name: slot.name }, lines: indented })
    }
    // A generated part is shown as the template has it, a value as it is on the page.
    else add({ text: by.startsWith('<') ? by : own, by })
    at = end
  }
  add({ text: text.slice(at), by: null })
  endFrame()
  return blocks
}

const isSame = (a: FrameMark, b: FrameMark) => a.path === b.path && a.start === b.start && a.end === b.end

/** Marks once an edge has been moved; an element has one of them at the most. */
export const afterMove = (marks: readonly FrameMark[], move: Move): readonly FrameMark[] => {
  const those = 'set' in move ? move.set : move.unset
  const others = marks.filter((mark) => !isSame(mark, those))
  return 'set' in move ? [...others, move.set] : others
}
