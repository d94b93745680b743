import type { HeadCell, TableHeads, TextEdit } from '#core/markup'
import type { Hash } from '#core/site'
import type { Mend, Rule } from '../../rule'

/** A table of data without a single `th` (HTML §4.9.10, WCAG 2.2 §1.3.1). */
export const tableWithoutHeaders: Rule = {
  id: 'table-without-headers',
  grade: 'hinders',
  title: 'Tables without heads',
  why: 'A screen reader says “12” and not “Tuesday, 12”: the head of a row or column is what gives a cell its meaning.',
  reads: 'text',
  find: ({ notes }, at, was) =>
    notes.flatMap((note) =>
      note.kind === 'no-headers'
        ? [
            {
              mark: note.piece,
              place: at(note),
              what: 'No cell of this table is a head (<th>), which says what its row or its column is.',
              mends: note.heads ? mendsOf(note.heads, was) : [],
            },
          ]
        : [],
    ),
}

function mendsOf({ row, column, likely }: TableHeads, was: Hash): Mend[] {
  const columns = row.flatMap((cell) => asHead(cell, 'col'))
  const below = column.filter(({ nameAt }) => row.every((cell) => cell.nameAt !== nameAt))
  const way = (words: string, edits: readonly TextEdit[], isSure: boolean): Mend => ({
    words,
    edits,
    was,
    ...(!isSure && { isOther: true }),
  })
  const ofRow = way('First row heads the columns', columns, likely === 'row')
  const ofColumn = way(
    'First column heads the rows',
    column.flatMap((cell) => asHead(cell, 'row')),
    likely === 'column',
  )
  const both = way(
    'First row and first column',
    [...columns, ...below.flatMap((cell) => asHead(cell, 'row'))],
    false,
  )
  return likely === 'column' ? [ofColumn, ofRow, both] : [ofRow, ofColumn, both]
}

/** Edits that make a head of a cell of data (HTML §4.9.10), of its column or its row. */
const asHead = ({ nameAt, endNameAt, hasScope }: HeadCell, scope: 'col' | 'row'): TextEdit[] => [
  { start: nameAt, end: nameAt + 'td'.length, text: hasScope ? 'th' : `th scope="${scope}"` },
  ...(endNameAt === null ? [] : [{ start: endNameAt, end: endNameAt + 'td'.length, text: 'th' }]),
]
