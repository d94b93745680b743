import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { TextStore } from '#core/testing'
import { bring, outcomes } from '../../testing/bringing'
import type { Edges, FrameMark, Move } from './frame-marks'

const page = (title: string, day: string, main: string) => `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>${title} - Saltings Ferry</title>
</head>
<body>
<div id="head">Saltings Ferry</div>
<div id="main">
<h1>${title}</h1>
<p class="day">Written on ${day}</p>
${main}
<p class="bell">Ring the bell.</p>
<p class="slip">At the old slip.</p>
</div>
<div id="foot"><p>So far.</p></div>
</body>
</html>
`
const files = {
  'index.html': page('Home', 'Monday', '<p>See the <a href="times.html">times</a>.</p>'),
  'times.html': page('Times', 'Tuesday', '<p>At nine.</p>\n<p>At ten.</p>'),
  'fares.html': page('Fares', 'Friday', '<ul><li>One</li></ul>'),
}

function under(marks: readonly FrameMark[]) {
  const store = new TextStore()
  const understood = bring(files, store, { scheme: null, lifts: true, generates: false, marks })
  const { model } = understood.templates[0]!
  return {
    source: store.textOf(understood.site.templates[0]!.source),
    slots: model!.slots.map(({ name, start, end }) => [name, model!.text.slice(start, end)]),
    edges: (name: string | null) => model!.slots.find((one) => one.name === name)!.edges,
    outcomes: new Set(Object.values(outcomes(understood, store))),
  }
}

const after = (marks: readonly FrameMark[], move: Move | null): FrameMark[] => {
  if (!move) throw new Error('There is no such way.')
  return 'set' in move ? [...marks, move.set] : marks.filter((mark) => mark !== move.unset)
}

const moved = (marks: readonly FrameMark[], name: string | null, edge: keyof Edges): FrameMark[] =>
  after(marks, under(marks).edges(name)[edge])

describe('edges of a slot', () => {
  test('are found where pages differ; what a heading says is its label', () => {
    const { slots, source } = under([])
    expect(slots).toEqual([
      [null, 'Home'],
      ['content', '<p class="day">Written on Monday</p>\n<p>See the <a href="times.html">times</a>.</p>'],
    ])
    expect(source).toContain('<h1>{page}</h1>\n<slot name="content"></slot>\n<p class="bell">Ring the bell.</p>')
  }) // prettier-ignore

  test('take in what stands beside it, piece by piece, and leave it again', () => {
    const once = moved([], 'content', 'endOut')
    expect(under(once).source).toContain('<slot name="content"></slot>\n<p class="slip">')
    expect(under(once).slots[1]![1]).toMatch(/<p class="bell">Ring the bell\.<\/p>$/)
    const twice = moved(once, 'content', 'endOut')
    expect(under(twice).source).toContain('<h1>{page}</h1>\n<slot name="content"></slot>\n</div>')
    expect(under(twice).edges('content').endOut).toBeNull()
    const wide = moved(twice, 'content', 'startOut')
    expect(under(wide).source).toContain('<div id="main">\n<slot name="content"></slot>\n</div>')
    expect(under(wide).slots).toHaveLength(1)
    let back = wide
    for (const edge of ['startIn', 'endIn', 'endIn'] as const) {
      expect(under(back).outcomes).toEqual(new Set(['same']))
      back = moved(back, 'content', edge)
    }
    expect(back).toEqual([])
  })

  test('leave the tags of an element to the frame, though what is in it differs, and take it in again', () => {
    const once = moved([], 'content', 'startIn')
    expect(once).toMatchObject([{ path: 'index.html', to: 'frame' }])
    const { source, slots, edges, outcomes: found } = under(once)
    expect(source).toContain('<p class="day"><slot name="day"></slot></p>\n<slot name="content"></slot>\n<p class="bell">')
    expect(slots.map(([name]) => name)).toEqual([null, 'day', 'content'])
    expect(found).toEqual(new Set(['same']))
    expect(after(once, edges('day').around)).toEqual([])
  }) // prettier-ignore

  test('take in the element around it, but neither the body nor the title', () => {
    const around = moved([], 'content', 'around')
    const { source, edges, outcomes: found } = under(around)
    expect(source).toContain('<div id="head">Saltings Ferry</div>\n<slot name="content"></slot>\n<div id="foot">')
    expect(found).toEqual(new Set(['same']))
    expect(edges('content').around).toBeNull()
    const top = moved(moved(around, 'content', 'startOut'), 'content', 'endOut')
    expect(under(top).edges('content')).toMatchObject({ startOut: null, endOut: null })
    expect(under(top).source).toContain('<body>\n<slot name="content"></slot>\n</body>')
  }) // prettier-ignore

  test('where nothing differs are made by their author', () => {
    const at = files['index.html'].indexOf('<p>So far')
    const { source, outcomes: found } = under([
      { path: 'index.html', start: at, end: at + '<p>So far.</p>'.length, to: 'slot' },
    ])
    expect(source).toContain('<div id="foot"><slot name="foot"></slot></div>')
    expect(found).toEqual(new Set(['same']))
  })

  test('wherever they are moved to, every page comes out as it was', () => {
    const ways = ['startOut', 'startIn', 'endOut', 'endIn', 'around'] as const
    const step = fc.record({ slot: fc.nat(5), way: fc.constantFrom(...ways) })
    fc.assert(
      fc.property(fc.array(step, { maxLength: 8 }), (steps) => {
        let marks: FrameMark[] = []
        for (const { slot, way } of steps) {
          const { slots, edges } = under(marks)
          const move = edges((slots[slot % slots.length]?.[0] as string | null | undefined) ?? null)[way]
          if (move) marks = after(marks, move)
        }
        const { slots, outcomes: found } = under(marks)
        expect(found).toEqual(new Set(['same']))
        // Something is filled in: these pages do differ.
        expect(slots.length).toBeGreaterThan(0)
      }),
      { numRuns: 60 },
    )
  })

  test('marks that fit nothing, or cross tags, are taken for none', () => {
    const odd: FrameMark[] = [
      { path: 'gone.html', start: 0, end: 10, to: 'slot' },
      { path: 'index.html', start: 90_000, end: 99_999, to: 'frame' },
      { path: 'times.html', start: 150, end: 160, to: 'slot' },
    ]
    expect(under(odd).source).toEqual(under([]).source)
  })
})
