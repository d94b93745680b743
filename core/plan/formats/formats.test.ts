import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { labels } from '#core/testing'
import { cleanLabel, type OutlineNode } from '../outline'
import { decodePlanFile, guessPlanForm, type PlanForm, readPlan, writePlan } from './index'

const details = fc.record(
  {
    title: labels.map(cleanLabel).filter(Boolean),
    ownName: fc.constantFrom('pier', 'x-1'),
    description: labels.map(cleanLabel).filter(Boolean),
    language: fc.constantFrom('de', 'pt-BR', 'zh-Hant'),
    dated: fc.boolean(),
    date: fc.constantFrom('2031', '2031-06', '2031-06-14'),
  },
  { requiredKeys: [] },
)
const { nodes: plans } = fc.letrec<{ nodes: OutlineNode[]; node: OutlineNode }>((tie) => ({
  nodes: fc.array(tie('node'), { minLength: 1, maxLength: 4, depthIdentifier: 'plan' }),
  node: fc
    .tuple(
      labels.map(cleanLabel).filter(Boolean), fc.boolean(), fc.boolean(), details,
      fc.oneof({ depthIdentifier: 'plan', maxDepth: 3 }, fc.constant([]), tie('nodes')),
    )
    .map(([label, trial, inMenus, more, children]) => ({
      label, trial, inMenus, children, ...(Object.keys(more).length > 0 && { details: more }),
    })),
})) // prettier-ignore

const plainOnly = (nodes: readonly OutlineNode[]): OutlineNode[] =>
  nodes.map(({ label, trial, inMenus, children }) => ({
    label,
    trial,
    inMenus,
    children: plainOnly(children),
  }))
const read = (format: PlanForm, text: string) => {
  const outline = readPlan(format, text)
  if ('refusal' in outline) throw new Error(`${outline.refusal.line}: ${outline.refusal.reason}`)
  return outline
}
const reasonOf = (format: PlanForm, text: string) => {
  const outline = readPlan(format, text)
  return 'refusal' in outline ? outline.refusal : null
}

describe.each(['text', 'markdown', 'csv', 'opml'] as const)('a plan as %s', (format) => {
  test('is read back as it was written, and what is lost was said', () => {
    fc.assert(
      fc.property(plans, (nodes) => {
        const { text, lost } = writePlan(format, nodes, 'Saltpan & Chapel')
        const plain = plainOnly(nodes)
        expect(read(format, text).nodes).toEqual(format === 'text' || format === 'markdown' ? plain : nodes)
        expect(lost.length > 0).toBe(
          (format === 'text' || format === 'markdown') && JSON.stringify(nodes) !== JSON.stringify(plain),
        )
        expect(
          guessPlanForm(text, `plan${{ text: '.txt', markdown: '.md', csv: '.csv', opml: '.opml' }[format]}`),
        ).toBe(format)
      }),
    )
  })
})

describe('plans of others', () => {
  const shape = (nodes: readonly OutlineNode[]): unknown =>
    nodes.map((node) => [node.label, ...(node.children.length ? [shape(node.children)] : [])])

  test('in Markdown: links, emphasis, boxes to tick, text between', () => {
    const outline = read(
      'markdown',
      '# Our site\n\n* **Home**\n    * [Visit](visit.html)\n    * [ ] _Later_ \\*\n1. Last\n',
    )
    expect(shape(outline.nodes)).toEqual([['Home', [['Visit'], ['_Later_ *']]], ['Last']])
    expect(outline.notes[0]).toContain('1 line')
    expect(reasonOf('markdown', 'just words')?.line).toBe(1)
  })
  test('in CSV: a level a column, semicolons, quoted line breaks, a level that is none', () => {
    expect(shape(read('csv', 'Home;;\r\n;Visit;\r\n;;Tides\r\n').nodes)).toEqual([
      ['Home', [['Visit', [['Tides']]]]],
    ])
    expect(shape(read('csv', 'Label,Level,Colour\n"Say ""hi""\nthere",1,red\nTides,2,\n').nodes)).toEqual([
      ['Say "hi" there', [['Tides']]],
    ])
    expect(shape(read('csv', 'level;label\r\n1;Home\r\n\r\n2;Visit\r\n').nodes)).toEqual([
      ['Home', [['Visit']]],
    ])
    expect(reasonOf('csv', 'level;label\r\n\r\nfirst;Visit\r\n')).toMatchObject({ line: 3 })
    expect(read('csv', 'Label,Level,Colour\nHome,1,red\n').notes.join()).toContain('Colour')
    expect(reasonOf('csv', 'level,label\n1,"a\nb"\nfirst,Visit\n')).toMatchObject({ line: 4 })
    expect(reasonOf('csv', 'level,label\n1,"open\n')).toMatchObject({
      reason: 'A quotation mark is opened and not closed.',
    })
  })
  test('in CSV: no cell is one that a spreadsheet runs, and what was typed comes back', () => {
    const labels = ['=1+1', '@x', "'=x", '+5', '-3', "''-x", "'quoted'", 'a=b']
    const nodes = labels.map((label) => ({ label, trial: false, inMenus: true, children: [] }))
    const { text } = writePlan('csv', nodes, 'x')
    for (const line of text.split('\r\n')) expect(line.split(',')[1] ?? '').not.toMatch(/^"?[=+\-@]/)
    expect(read('csv', text).nodes.map((node) => node.label)).toEqual(labels)
  })
  test('in OPML: other attributes, outlines without text, XML that is broken', () => {
    const opml = (body: string) =>
      `<?xml version="1.0"?>\n<opml version="1.0">\n<body>\n${body}\n</body></opml>`
    const outline = read(
      'opml',
      opml('<outline text="A" url="x"><outline/><outline text="B &amp; C"/></outline>'),
    )
    expect(shape(outline.nodes)).toEqual([['A', [['B & C']]]])
    expect(outline.notes).toHaveLength(1)
    expect(reasonOf('opml', opml('<outline text="A">'))).toMatchObject({ line: 5 })
    expect(reasonOf('opml', '<html></html>')?.reason).toContain('no OPML')
    expect(reasonOf('opml', '<!DOCTYPE x [<!ENTITY a "&b;">]><opml>&a;</opml>')).not.toBeNull()
  })
  test('of more lines or tags than any plan has: refused where there are too many', () => {
    const lines = (count: number) => Array.from({ length: count }, (_, index) => `Page ${index}`)
    // Lines may end as old systems ended them, however many there are.
    for (const end of ['\n', '\r', '\r\n'])
      expect(read('text', lines(5_000).join(end)).lineNumbers).toHaveLength(5_000)
    const reason = 'A plan is read from 250,000 lines at the most.'
    for (const form of ['text', 'ways', 'csv'] as const)
      expect(reasonOf(form, lines(250_001).join('\r'))).toEqual({ line: 250_001, reason })
    const menu = (count: number) => '<ul>' + '\n<li>Tern</li>'.repeat(count)
    expect(read('menu', menu(1_000)).lineNumbers).toHaveLength(1_000)
    expect(reasonOf('menu', menu(125_000))).toMatchObject({ line: 125_001 })
  })
  test('in another encoding', () => {
    const decoded = (bytes: number[]) => decodePlanFile(Uint8Array.from(bytes))
    expect(decoded([0xff, 0xfe, 0x43, 0, 0xe9, 0])).toMatchObject({ text: 'Cé' })
    expect(decoded([0x43, 0xe9])).toMatchObject({
      text: 'Cé',
      notes: [expect.stringContaining('Windows-1252')],
    })
    expect(decoded([0x43, 0xc3, 0xa9])).toEqual({ text: 'Cé', notes: [] })
    expect(decoded([10, 0])).toMatchObject({ refusal: { line: 2 } })
  })
})
