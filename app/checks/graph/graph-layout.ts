import { scaleBand, scaleSqrt } from 'd3'

/** A page to be drawn. */
export interface LayoutPage {
  readonly id: string
  readonly label: string
  /** Clicks from the home page; null where no way leads. */
  readonly steps: number | null
  /** The top-level page it belongs to; its own id for one, '' for the home page. */
  readonly section: string
  readonly to: readonly number[]
}

export interface Dot {
  readonly id: string
  readonly label: string
  readonly steps: number | null
  readonly x: number
  readonly y: number
  readonly radius: number
}

/** Words beside what they name: above, they begin or end at a place. */
export interface Label {
  readonly id: string
  readonly words: string
  readonly x: number
  readonly y: number
  readonly isLeft: boolean
}

export interface Ring {
  readonly radius: number
  readonly words: string
  /** Where its words are centred: in the gap that the plan leaves. */
  readonly x: number
  readonly y: number
  /** The one of pages that no way leads to. */
  readonly isOutside: boolean
}

/** The picture: home in the middle, a ring for each click away from it, a sector for each section. */
export interface GraphLayout {
  readonly dots: readonly Dot[]
  readonly rings: readonly Ring[]
  /** Labels of pages where there is room for all of them. */
  readonly labels: readonly Label[]
  /** Labels of sections where there is not. */
  readonly sections: readonly Label[]
  /** Links of texts, by the places of their ends, and the lines that show them. */
  readonly links: readonly { readonly from: number; readonly to: number; readonly path: string }[]
  /** Half the width and height of all of it. */
  readonly extent: number
}

/** Pages up to which each has its label beside it; of more, the sections have theirs. */
export const mostLabels = 70

const clicks = (steps: number) => (steps === 1 ? '1 click' : `${steps} clicks`)

/** Where each page stands. Angles follow the plan, so that a section is a sector; linear in pages and links. */
export function layOutGraph(pages: readonly LayoutPage[]): GraphLayout {
  const others = pages.filter(({ steps }) => steps !== 0)
  const dotSize = scaleSqrt().domain([10, 60, 400, 4_000]).range([6, 5, 3, 1.6]).clamp(true)(pages.length)
  const furthest = others.reduce((most, { steps }) => Math.max(most, steps ?? 0), 0)
  const isAnyOutside = others.some(({ steps }) => steps === null)
  const ringOf = ({ steps }: LayoutPage) => steps ?? furthest + 1

  // A gap of one place between sections keeps them apart where they are few.
  const places: string[] = []
  let before: string | null = null
  for (const { id, section } of others) {
    if (before !== null && section !== before) places.push(`gap before ${id}`)
    places.push(id)
    before = section
  }
  // The words of the rings stand in it.
  const atEnd = Math.max(2, Math.ceil(others.length * 0.06))
  for (let at = 0; at < atEnd; at++) places.push(`gap at the end ${at}`)
  const angleOf = scaleBand<string>(places, [-Math.PI / 2, Math.PI * 1.5])
  const middle = (id: string) => angleOf(id)! + angleOf.bandwidth() / 2

  // A ring is as wide as its pages need, in rows where they are many.
  const counts = new Map<number, number>()
  for (const page of others) counts.set(ringOf(page), (counts.get(ringOf(page)) ?? 0) + 1)
  const pitch = dotSize * 2 + 1.5
  const gap = pages.length <= mostLabels ? 92 : 60
  const radii = new Map<number, { radius: number; rows: number }>()
  let radius = 0
  for (let ring = 1; ring <= furthest + (isAnyOutside ? 1 : 0); ring++) {
    radius += ring === furthest + 1 ? gap * 0.7 : gap
    const share = (counts.get(ring) ?? 0) / Math.max(1, others.length)
    // Its pages stand closest where a section has them all in a row.
    const along = 2 * Math.PI * radius * Math.max(share, 1 / 8)
    const rows = Math.max(1, Math.min(12, Math.ceil(((counts.get(ring) ?? 0) * pitch) / along)))
    radii.set(ring, { radius, rows })
    radius += (rows - 1) * pitch
  }

  const gapAngle =
    middle(`gap at the end ${Math.floor(atEnd / 2)}`) - (atEnd % 2 === 0 ? angleOf.bandwidth() / 2 : 0)
  const nth = new Map<number, number>()
  const dots = pages.map((page): Dot => {
    const { id, label, steps } = page
    if (steps === 0) return { id, label, steps, x: 0, y: 0, radius: dotSize * 1.5 }
    const ring = ringOf(page)
    const index = nth.get(ring) ?? 0
    nth.set(ring, index + 1)
    const { radius: from, rows } = radii.get(ring)!
    const angle = middle(id)
    const at = from + (index % rows) * pitch
    const [x, y] = [Math.cos(angle) * at, Math.sin(angle) * at]
    return { id, label, steps, x, y, radius: dotSize }
  })

  const extent = radius + pitch + 14
  const bySection = new Map<string, { label: string; ids: string[] }>()
  for (const { id, section, label } of others) {
    const known = bySection.get(section) ?? { label, ids: [] }
    bySection.set(section, known)
    if (id === section) known.label = label
    known.ids.push(id)
  }
  const sections = [...bySection.values()]
    // Of very small ones there is no room for a name.
    .filter(({ ids }) => pages.length > mostLabels && ids.length * 60 >= others.length)
    .map(({ label, ids }): Label => {
      const angle = (middle(ids[0]!) + middle(ids[ids.length - 1]!)) / 2
      const [x, y] = [Math.cos(angle) * extent, Math.sin(angle) * extent]
      return { id: ids[0]!, words: label, x, y, isLeft: x < -1 }
    })

  const rings = [...radii].map(([ring, { radius: from, rows }]): Ring => {
    const isOutside = ring === furthest + 1
    const words = isOutside ? 'no way leads here' : clicks(ring)
    const middleRow = from + ((rows - 1) * pitch) / 2
    return {
      radius: middleRow,
      words,
      isOutside,
      x: Math.cos(gapAngle) * middleRow,
      y: Math.sin(gapAngle) * middleRow,
    }
  })
  const labels = pages.length <= mostLabels ? placeLabels(dots, rings) : []
  return { dots, rings, labels, sections, links: linksOf(pages, dots), extent }
}

/** About what a letter is wide and a line high, at the size of the labels. */
const [letterWidth, lineHeight] = [6.3, 14]
/** Letters of a label. */
const longestLabel = 26
const shortLabel = (label: string): string =>
  label.length > longestLabel ? `${label.slice(0, longestLabel - 1)}…` : label

interface Area {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}
const meet = (a: Area, b: Area) =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom

/** Labels of some pages among very many, the first ones first; one that would cover another is left out. */
export function labelsAmong(dots: readonly Dot[]): Label[] {
  const taken: Area[] = []
  return dots.flatMap(({ id, label, x, y, radius }) => {
    const words = shortLabel(label)
    const isLeft = x < -1
    const at = x + (isLeft ? -radius - 5 : radius + 5)
    const left = isLeft ? at - words.length * letterWidth : at
    const area = {
      left,
      right: left + words.length * letterWidth,
      top: y - lineHeight / 2,
      bottom: y + lineHeight / 2,
    }
    if (taken.some((one) => meet(one, area))) return []
    taken.push(area)
    return [{ id, words, x: at, y, isLeft }]
  })
}

/** A label beside each page: outwards where nothing stands in the way, else a line higher or lower, or within. */
function placeLabels(dots: readonly Dot[], rings: readonly Ring[]): Label[] {
  const taken: Area[] = [
    ...dots.map(({ x, y, radius }) => ({
      left: x - radius,
      right: x + radius,
      top: y - radius,
      bottom: y + radius,
    })),
    ...rings.map(({ x, y, words }) => {
      const half = (words.length * letterWidth) / 2
      return { left: x - half, right: x + half, top: y - lineHeight / 2, bottom: y + lineHeight / 2 }
    }),
  ]
  return dots.map(({ id, label, x, y, radius }, index): Label => {
    const words = shortLabel(label)
    const width = words.length * letterWidth
    const outwards = x < -1
    const tries = [outwards, !outwards].flatMap((isLeft) =>
      [0, -11, 11, -20, 20].map((shift) => {
        const at = { x: x + (isLeft ? -radius - 5 : radius + 5), y: y + shift, isLeft }
        const left = isLeft ? at.x - width : at.x
        const area = { left, right: left + width, top: at.y - lineHeight / 2, bottom: at.y + lineHeight / 2 }
        return { at, area }
      }),
    )
    const free = tries.find(({ area }) => !taken.some((one, other) => other !== index && meet(area, one)))
    const { at, area } = free ?? tries[0]!
    taken.push(area)
    return { id, words, ...at }
  })
}

function linksOf(pages: readonly LayoutPage[], dots: readonly Dot[]): GraphLayout['links'] {
  return pages.flatMap(({ to }, from) =>
    to.map((place) => {
      const [a, b] = [dots[from]!, dots[place]!]
      // Drawn towards the middle, so that links of one kind run together.
      const [x, y] = [((a.x + b.x) / 2) * 0.4, ((a.y + b.y) / 2) * 0.4]
      const path = `M${r(a.x)},${r(a.y)}Q${r(x)},${r(y)} ${r(b.x)},${r(b.y)}`
      return { from, to: place, path }
    }),
  )
}

const r = (value: number) => Math.round(value * 10) / 10
