import { describe, expect, test } from '@jest/globals'
import { graphSvg } from './graph-export'
import { layOutGraph, type LayoutPage } from './graph-layout'

const page = (at: number, steps: number | null, section: string, to: number[] = []): LayoutPage => ({
  id: `p${at}`,
  label: at === 0 ? 'Home & light' : `Page ${at}`,
  steps,
  section,
  to,
})
const some = [
  page(0, 0, '', [1, 2]),
  page(1, 1, 'p1', [3]),
  page(2, 1, 'p2'),
  page(3, 2, 'p1'),
  page(4, null, 'p4', [0]),
]
const distance = ({ x, y }: { x: number; y: number }) => Math.hypot(x, y)

describe('the picture of links', () => {
  test('home stands in the middle, every click is a ring further out, and what is not reached outside', () => {
    const { dots, rings, links } = layOutGraph(some)
    expect(distance(dots[0]!)).toBe(0)
    expect(distance(dots[1]!)).toBeCloseTo(distance(dots[2]!))
    expect(distance(dots[1]!)).toBeLessThan(distance(dots[3]!))
    expect(distance(dots[3]!)).toBeLessThan(distance(dots[4]!))
    expect(rings.map(({ words }) => words)).toEqual(['1 click', '2 clicks', 'no way leads here'])
    expect(links.map(({ from, to }) => [from, to])).toEqual([[0, 1], [0, 2], [1, 3], [4, 0]]) // prettier-ignore
  })

  test('of twenty pages no dot and no label covers another', () => {
    const pages = [page(0, 0, ''), ...Array.from({ length: 20 }, (_, at) => page(at + 1, at < 6 ? 1 : 2, `s${at >> 2}`))]
    const { dots, labels } = layOutGraph(pages)
    expect(labels).toHaveLength(21)
    for (const [index, one] of dots.entries())
      for (const other of dots.slice(index + 1))
        expect(Math.hypot(one.x - other.x, one.y - other.y)).toBeGreaterThan(one.radius + other.radius)
    const boxes = labels.map(({ words, x, y, isLeft }) => ({ left: isLeft ? x - words.length * 6 : x, right: isLeft ? x : x + words.length * 6, y }))
    for (const [index, one] of boxes.entries())
      for (const other of boxes.slice(index + 1))
        expect(one.left < other.right && other.left < one.right && Math.abs(one.y - other.y) < 10).toBe(false)
  }) // prettier-ignore

  test('of two thousand they stand in rows, apart from one another, with the names of their sections', () => {
    const pages = [page(0, 0, ''), ...Array.from({ length: 2_000 }, (_, at) => page(at + 1, at % 200 === 0 ? 1 : 2, `p${Math.floor(at / 200) * 200 + 1}`))]
    const { dots, labels, sections } = layOutGraph(pages)
    expect(labels).toEqual([])
    expect(sections).toHaveLength(10)
    const seen = new Map<string, number>()
    for (const { x, y } of dots) {
      const cell = `${Math.round(x / 2)} ${Math.round(y / 2)}`
      seen.set(cell, (seen.get(cell) ?? 0) + 1)
    }
    // Cells of two pixels hold hardly ever more than one of them.
    expect([...seen.values()].filter((many) => many > 1).length).toBeLessThan(20)
  }) // prettier-ignore

  test('as a file of its own it holds text as text, escaped', () => {
    const svg = graphSvg(layOutGraph(some), 'Saltpan <Chapel>')
    expect(svg).toContain('Home &amp; light')
    expect(svg).toContain('<title>Saltpan &lt;Chapel&gt;</title>')
    expect(svg.match(/<circle [^>]*cx=/g)).toHaveLength(5)
    expect(svg).not.toContain('var(')
  })
})
