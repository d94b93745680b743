import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { treeOf, writeOutline } from '#core/plan'
import { outlines, siteFrom, TextStore } from '#core/testing'
import { diagramSvg } from './diagram-export'
import { type Box, boxHeight, layOut } from './diagram-layout'
import { piecesOf, sheetsOf } from './diagram-sheets'

const none: ReadonlySet<string> = new Set()
const diagramOf = (plan: string, folded = none) => {
  const site = siteFrom(plan, new TextStore())
  return { site, diagram: layOut(treeOf(site), site.homeId, folded) }
}
const overlap = (a: Box, b: Box) =>
  Math.abs(a.y - b.y) < boxHeight && a.x < b.x + b.width && b.x < a.x + a.width

describe('the diagram', () => {
  test('shows every page in a box of its own, a column a level, with no two boxes over each other', () => {
    fc.assert(
      fc.property(outlines, (nodes) => {
        const { site, diagram } = diagramOf(writeOutline(nodes))
        expect(new Set(diagram.boxes.map((box) => box.page.id))).toEqual(
          new Set(site.pages.map((page) => page.id)),
        )
        expect(diagram.lines).toHaveLength(site.pages.length - 1)
        for (const [index, box] of diagram.boxes.entries())
          for (const other of diagram.boxes.slice(index + 1)) expect(overlap(box, other)).toBe(false)
        for (const { from, to } of diagram.lines) expect(from.x + from.width).toBeLessThan(to.x)
        const { x, y, width, height } = diagram.bounds
        for (const box of diagram.boxes) {
          expect(box.x).toBeGreaterThanOrEqual(x)
          expect(box.x + box.width).toBeLessThanOrEqual(x + width)
          expect(box.y - boxHeight / 2).toBeGreaterThanOrEqual(y)
          expect(box.y + boxHeight / 2).toBeLessThanOrEqual(y + height)
        }
      }),
    )
  })

  test('a folded branch says how many pages it hides', () => {
    const { site } = diagramOf('Home\n  Visit\n    Tides\n      Winter\n    Ferry\n  Contact')
    const visit = site.pages.find((page) => page.label === 'Visit')!
    const { boxes } = layOut(treeOf(site), site.homeId, new Set([visit.id]))
    expect(boxes.map((box) => [box.page.label, box.hidden])).toEqual([
      ['Home', 0],
      ['Visit', 3],
      ['Contact', 0],
    ])
  })

  test('as SVG it is well formed, and its text stays text', () => {
    const { diagram } = diagramOf('Home\n  Café <& "shop">\n  Draft (trial page)')
    const svg = diagramSvg(diagram, 'Plan of A & B')
    expect(svg).toContain('<title>Plan of A &amp; B</title>')
    expect(svg).toContain('>Café &lt;&amp; &quot;shop&quot;&gt;</text>')
    expect(svg.match(/<rect /g)).toHaveLength(4)
    expect(svg.match(/stroke-dasharray/g)).toHaveLength(1)
  })
})

describe('printed across several sheets', () => {
  test('every box stands whole on one of them', () => {
    fc.assert(
      fc.property(outlines, fc.integer({ min: 260, max: 900 }), fc.integer({ min: 60, max: 500 }), (nodes, width, height) => {
        const { diagram } = diagramOf(writeOutline(nodes))
        const sheets = sheetsOf(diagram, { width, height })
        for (const box of diagram.boxes) {
          const holding = sheets.filter(
            (sheet) =>
              box.x >= sheet.x &&
              box.x + box.width <= sheet.x + sheet.width &&
              box.y - boxHeight / 2 >= sheet.y &&
              box.y + boxHeight / 2 <= sheet.y + sheet.height,
          )
          expect(holding.length).toBeGreaterThanOrEqual(1)
        }
      }),
    ) // prettier-ignore
  })

  test('a piece begins before what the last one cut; what is longer than a piece is cut all the same', () => {
    expect(piecesOf(0, 100, [{ from: 30, to: 50 }], 40)).toEqual([
      { from: 0, to: 40 },
      { from: 30, to: 70 },
      { from: 70, to: 100 },
    ])
    expect(piecesOf(0, 100, [{ from: 0, to: 100 }], 60)).toEqual([
      { from: 0, to: 60 },
      { from: 60, to: 100 },
    ])
    expect(piecesOf(0, 50, [], 60)).toEqual([{ from: 0, to: 50 }])
  })
})
