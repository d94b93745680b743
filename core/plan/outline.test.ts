import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { outlines } from '#core/testing'
import { cleanLabel, type OutlineNode, planSite, readOutline, walkOutline, writeOutline } from './index'

const shape = (nodes: readonly OutlineNode[]): unknown =>
  nodes.map((node) => [node.label, shape(node.children)])

describe('reading a plan', () => {
  test('deeper lines go under the line before, with tabs or spaces of any width', () => {
    const expected = [
      [
        'Home',
        [
          ['Visit', [['Tides', []]]],
          ['Stay', []],
        ],
      ],
    ]
    expect(shape(readOutline('Home\n  Visit\n    Tides\n  Stay').nodes)).toEqual(expected)
    expect(shape(readOutline('Home\n\tVisit\n\t\tTides\n\tStay\n').nodes)).toEqual(expected)
    expect(shape(readOutline('\ufeffHome\r\n Visit\r\n     Tides\r\n\r\n Stay').nodes)).toEqual(expected)
  })

  test('a line that comes back to an unused depth goes with the nearest shallower one, and is said', () => {
    const outline = readOutline('Home\n    Visit\n  Stay')
    expect(shape(outline.nodes)).toEqual([
      [
        'Home',
        [
          ['Visit', []],
          ['Stay', []],
        ],
      ],
    ])
    expect(outline.notes).toHaveLength(1)
  })

  test('mixed tabs and spaces are read and said', () => {
    expect(readOutline('A\n\tB\n        C').notes[0]).toContain('mixed')
  })

  test('bullets and numbers in front are taken as list marks, marks at the end as flags', () => {
    const [visit, sketch] = readOutline('- Visit\n2. Sketch (trial page)').nodes
    expect(visit).toMatchObject({ label: 'Visit', trial: false })
    expect(sketch).toMatchObject({ label: 'Sketch', trial: true })
  })

  test.each([
    ['Start\n- Bread\n- - Rye\n- - Oat\n- Us', [['Start', [['Bread', [['Rye', []], ['Oat', []]]], ['Us', []]]]]],
    ['* Bread\n** Rye\n* Us', [['Bread', [['Rye', []]]], ['Us', []]]],
    ['# Start\n## Bread\n### 1. Rye\n## Us', [['Start', [['Bread', [['Rye', []]]], ['Us', []]]]]],
    ['Bread\n• Rye\n• Oat\nUs\n• Find us', [['Bread', [['Rye', []], ['Oat', []]]], ['Us', [['Find us', []]]]]],
    ['1. Bread\n1.1 Rye\n1.1.1. Thin\n1.2) Oat\nNo number\n2. Us', [['Bread', [['Rye', [['Thin', []]]], ['Oat', []]]], ['No number', []], ['Us', []]]],
    ['Start\n1 Bread\n1.1 Rye\n2 Us', [['Start', [['Bread', [['Rye', []]]], ['Us', []]]]]],
    // By indentation where there is any; the numbers go all the same.
    ['1. Bread\n   1.1 Rye\n2. Us', [['Bread', [['Rye', []]]], ['Us', []]]],
    // Labels, and no outline.
    ['Sunday\n10.30 Service\n12.00 Lunch', [['Sunday', []], ['10.30 Service', []], ['12.00 Lunch', []]]],
    ['2024 season\n2025 season', [['2024 season', []], ['2025 season', []]]],
    ['Home\n- Visit\n- Us', [['Home', []], ['Visit', []], ['Us', []]]],
    ['\\- - a\n\\## b', [['- - a', []], ['## b', []]]],
  ])('levels are told by what stands in front of lines: %j', (text, expected) => {
    expect(shape(readOutline(text).nodes)).toEqual(expected)
  }) // prettier-ignore

  test('labels that look like levels are written so that they are labels', () => {
    const flat = (...labels: string[]): OutlineNode[] =>
      labels.map((label) => ({ label, trial: false, inMenus: true, children: [] }))
    for (const labels of [
      ['- - a', '## b', 'c', '> d'],
      ['1 a', '1.1 b', '1.2 c'],
      ['10.30 a', '2024 b'],
    ])
      expect(readOutline(writeOutline(flat(...labels))).nodes).toEqual(flat(...labels))
    expect(writeOutline(flat('10.30 a', '2024 b'))).toBe('10.30 a\n2024 b\n')
  })

  test('and so in any tree of them', () => {
    const labels = fc.constantFrom('- - a', '** b', '1 c', '1.1 d', '1.2. e', '# f', '10.30 g', '\\ h', '2. i', 'j', '> > k', '1.1.1 l', '-') // prettier-ignore
    const { nodes } = fc.letrec<{ nodes: OutlineNode[] }>((tie) => ({
      nodes: fc.array(
        fc.record({
          label: labels,
          trial: fc.boolean(),
          inMenus: fc.boolean(),
          children: fc.oneof({ maxDepth: 3 }, fc.constant([]), tie('nodes')),
        }),
        { maxLength: 4 },
      ),
    }))
    fc.assert(fc.property(nodes, (plan) => expect(readOutline(writeOutline(plan)).nodes).toEqual(plan)))
  })

  test('what is written is read back the same', () => {
    const clean = (nodes: readonly OutlineNode[]): OutlineNode[] =>
      nodes.flatMap((node) => {
        const label = cleanLabel(node.label)
        return label === '' ? clean(node.children) : [{ ...node, label, children: clean(node.children) }]
      })
    fc.assert(
      fc.property(outlines, (nodes) => {
        const plan = clean(nodes)
        expect(readOutline(writeOutline(plan)).nodes).toEqual(plan)
      }),
    )
  })

  test('a label that looks like a list mark or a flag survives', () => {
    for (const label of [
      '- not a bullet',
      '1. not a number',
      'Odd (trial page)',
      '\\ slash',
      'ends in \\',
      '(not in menus)',
    ]) {
      const nodes = [{ label, trial: true, inMenus: false, children: [] }]
      expect(readOutline(writeOutline(nodes)).nodes).toEqual(nodes)
    }
  })
})

describe('the home page of a plan', () => {
  const plan = (text: string) => planSite(readOutline(text), 'Saltpan Chapel')

  test('is the first line when all others stand under it', () => {
    expect(plan('Chapel\n  Visit\n  Stay')).toMatchObject({
      home: { label: 'Chapel' },
      top: [{ label: 'Visit' }, { label: 'Stay' }],
    })
  })
  test('is the first line when it is called like a home page', () => {
    expect(plan('Home\nVisit\nStay')).toMatchObject({
      home: { label: 'Home' },
      top: [{ label: 'Visit' }, { label: 'Stay' }],
    })
  })
  test('is put in front otherwise, and that is said', () => {
    const read = plan('Visit\n  Tides\nStay')
    expect(read).toMatchObject({
      home: { label: 'Saltpan Chapel' },
      top: [{ label: 'Visit' }, { label: 'Stay' }],
    })
    expect(read.notes.join()).toContain('Saltpan Chapel')
  })
  test('is there even when nothing is typed', () => {
    expect(plan('')).toMatchObject({ home: { label: 'Saltpan Chapel' }, top: [] })
  })
})

test('lines deeper than a plan may be are put at its deepest level, and that is told', () => {
  const text = Array.from({ length: 5_000 }, (_, depth) => ' '.repeat(depth) + `Level ${depth}`).join('\n')
  const { nodes, notes } = readOutline(text)
  const lines = walkOutline(nodes)
  expect(lines.map(({ node }) => node.label)).toEqual(text.split('\n').map((line) => line.trim()))
  expect(Math.max(...lines.map(({ depth }) => depth))).toBe(99)
  expect(notes).toEqual(['4900 lines stand deeper than 100 levels, and were put at that one.'])
})
