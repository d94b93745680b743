import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { mostLevels } from '#core/plan'
import { type CorrectedPage, correctPlan } from './corrected-plan'
import type { PlannedPage } from './plan-of'

/** A plan as indented lines of labels; what stands at `label.html` is called by its label. */
const found = (text: string): PlannedPage[] => {
  const above: string[] = []
  return text.split('\n').map((line) => {
    const label = line.trim()
    above.length = /^ */.exec(line)![0].length / 2
    const parentId = above.at(-1) ?? null
    above.push(label)
    return { id: label, label, parentId, inMenu: true }
  })
}
const idsOf = (plan: readonly PlannedPage[]) => new Map(plan.map(({ id }) => [`${id}.html`, id]))
const shown = (plan: readonly PlannedPage[]): string[] => {
  const depth = new Map<string, number>()
  return plan.map(({ id, label, parentId }) => {
    depth.set(id, parentId === null ? 0 : depth.get(parentId)! + 1)
    return '  '.repeat(depth.get(id)!) + label
  })
}
const line = (path: string, depth: number, label = path.replace('.html', '')): CorrectedPage => ({ path, label, depth }) // prettier-ignore

const plan = found('Home\nVisit\n  Tides\n  Boats\nTerns\n  Chicks')

test('lines stand where they were put, called as they were called', () => {
  const corrected = [
    line('Home.html', 0, 'Welcome'),
    line('Terns.html', 0),
    line('Tides.html', 1, ' Tide \n tables '),
    // Deeper than there is anything above it, and no label at all.
    line('Visit.html', 7, ' '),
    line('Boats.html', 0),
    line('Chicks.html', 1),
  ]
  expect(shown(correctPlan(plan, 'Home', corrected, idsOf(plan)))).toEqual([
    'Welcome',
    'Terns',
    '  Tide tables',
    '    Visit',
    'Boats',
    '  Chicks',
  ])
})

test('what is not named stays below what it was below; what is gone is passed over', () => {
  const corrected = [
    line('Terns.html', 0),
    line('gone.html', 1),
    line('Visit.html', 1),
    line('Visit.html', 0),
  ]
  expect(correctPlan(plan, 'Home', corrected, idsOf(plan)).map(({ id, parentId }) => `${id}<${parentId}`)).toEqual([
    'Home<null',
    'Terns<null',
    'Visit<Terns',
    'Chicks<Terns',
    'Tides<Visit',
    'Boats<Visit',
  ]) // prettier-ignore
})

test('whatever is said, each page stands once, below one that stands before it, and no deeper than a plan goes', () => {
  const deep = found(
    Array.from({ length: 130 }, (_, at) => '  '.repeat(Math.min(at, 95)) + `p${at}`).join('\n'),
  )
  const anyLine = fc.record({
    path: fc.nat(135).map((at) => `p${at}.html`),
    label: fc.string(),
    depth: fc.nat(mostLevels * 2),
  })
  fc.assert(
    fc.property(fc.array(anyLine, { maxLength: 150 }), (corrected) => {
      const made = correctPlan(deep, 'p0', corrected, idsOf(deep))
      expect(made.map(({ id }) => id).sort()).toEqual(deep.map(({ id }) => id).sort())
      expect(made[0]).toMatchObject({ id: 'p0', parentId: null })
      const depths = new Map<string | null, number>([[null, -1]])
      for (const { id, parentId, label } of made) {
        expect(depths.has(parentId)).toBe(true)
        expect(parentId).not.toBe('p0')
        expect(label.trim()).not.toBe('')
        depths.set(id, depths.get(parentId)! + 1)
        expect(depths.get(id)!).toBeLessThan(mostLevels)
      }
    }),
  )
})
