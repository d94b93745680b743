import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { type Move, moveLine } from './correct-lines'

const read = (text: string) =>
  text.split('\n').map((line) => ({ label: line.trim(), depth: /^ */.exec(line)![0].length / 2 }))
const write = (lines: readonly { label: string; depth: number }[]) =>
  lines.map(({ label, depth }) => '  '.repeat(depth) + label).join('\n')

const plan = 'Home\nVisit\n  Tides\n    Spring\n  Boats\nTerns\nContact'
const moved = (label: string, move: Move) => {
  const lines = read(plan)
  const made = moveLine(lines, lines.findIndex((line) => line.label === label), move) // prettier-ignore
  if (made) expect(made.lines[made.index]!.label).toBe(label)
  return made && write(made.lines)
}

test('a line moves with all that is below it', () => {
  expect(moved('Tides', 'down')).toBe('Home\nVisit\n  Boats\n  Tides\n    Spring\nTerns\nContact')
  expect(moved('Terns', 'up')).toBe('Home\nTerns\nVisit\n  Tides\n    Spring\n  Boats\nContact')
  expect(moved('Terns', 'in')).toBe('Home\nVisit\n  Tides\n    Spring\n  Boats\n  Terns\nContact')
  expect(moved('Tides', 'out')).toBe('Home\nVisit\n  Boats\nTides\n  Spring\nTerns\nContact')
})

test('it stays where there is nowhere to go', () => {
  expect(moved('Home', 'down')).toBeNull()
  expect(moved('Visit', 'up')).toBeNull()
  // Nothing stands below the home page.
  expect(moved('Visit', 'in')).toBeNull()
  expect(moved('Visit', 'out')).toBeNull()
  expect(moved('Tides', 'in')).toBeNull()
  expect(moved('Contact', 'down')).toBeNull()
})

test('no move loses a line, leaves a level out, or goes below or before the home page', () => {
  const shape = fc.array(fc.nat(3), { maxLength: 12 })
  const moves = fc.array(fc.tuple(fc.nat(12), fc.constantFrom<Move>('up', 'down', 'in', 'out')), { maxLength: 20 }) // prettier-ignore
  fc.assert(
    fc.property(shape, moves, (steps, asked) => {
      let lines = [{ label: 'Home', depth: 0 }]
      for (const [index, step] of steps.entries())
        lines.push({ label: `${index}`, depth: index === 0 ? 0 : Math.min(step, lines[index]!.depth + 1) })
      for (const [index, move] of asked) {
        const made = moveLine(lines, index, move)
        if (!made) continue
        expect(made.lines[made.index]!.label).toBe(lines[index]!.label)
        expect(made.lines.map(({ label }) => label).sort()).toEqual(lines.map(({ label }) => label).sort())
        lines = made.lines
        expect(lines[0]!.label).toBe('Home')
        for (const [at, { depth }] of lines.entries())
          expect(depth).toBeLessThanOrEqual(at < 2 ? 0 : lines[at - 1]!.depth + 1)
      }
    }),
  )
})
