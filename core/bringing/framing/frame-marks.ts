import type { Range } from '#core/markup'
import type { ReadPage } from '../reading/read-page'

/**
 * What the author of pages says of an element that all of a group have: it belongs to what each page holds (`slot`),
 * or its tags to the frame that they share, whatever stands between them (`frame`). It is named by where it stands in
 * one of them, in UTF-16 code units of its text with line feeds.
 */
export interface FrameMark extends Range {
  readonly path: string
  readonly to: 'slot' | 'frame'
}

/** A way to move the edge of a slot: a mark to set, or one to take off. */
export type Move = { readonly set: FrameMark } | { readonly unset: FrameMark }

/** Where the edges of a slot can be moved to; null where there is no way. */
export interface Edges {
  /** Takes in what stands before it. */
  readonly startOut: Move | null
  /** Leaves its first element to the frame, or its tags. */
  readonly startIn: Move | null
  readonly endOut: Move | null
  readonly endIn: Move | null
  /** Takes in the element around it. */
  readonly around: Move | null
}

/** What stands beside a stretch and in it, in the first page of a group. */
export interface Sides {
  readonly before: Range | null
  readonly after: Range | null
  /** Elements in it that every page has, and that differ. */
  readonly within: readonly Range[]
}

const covers = (outer: Range, inner: Range) => outer.start <= inner.start && outer.end >= inner.end

/** Marks on the pages of a group. Pages without one cost nothing. */
export function marksOn(group: readonly ReadPage[], marks: readonly FrameMark[]) {
  const byPath = new Map<string, FrameMark[]>()
  for (const mark of marks) byPath.set(mark.path, [...(byPath.get(mark.path) ?? []), mark])
  const marked = group.flatMap(({ path }, index) => {
    const own = byPath.get(path)
    return own ? [{ index, own }] : []
  })
  const { path, text } = group[0]!
  const own = byPath.get(path) ?? []

  return {
    /** What is said of an element that stands so in each page. */
    of(ranges: readonly (Range | null)[]): FrameMark['to'] | null {
      let isFrame = false
      for (const { index, own: those } of marked) {
        const range = ranges[index]
        for (const mark of range ? those : []) {
          if (!covers(mark, range!)) continue
          if (mark.to === 'slot') return 'slot'
          isFrame ||= covers(range!, mark)
        }
      }
      return isFrame ? 'frame' : null
    },

    /** Whether something within a stretch is said to belong there. */
    isIn: (ranges: readonly Range[], to: FrameMark['to']): boolean =>
      marked.some(({ index, own: those }) =>
        those.some((mark) => mark.to === to && covers(ranges[index]!, mark)),
      ),

    /**
     * Where the edges of a stretch can be moved to.
     * @param texts what stands there in each page
     * @param around the element that it stands in
     */
    edgesOf(
      ranges: readonly Range[],
      texts: readonly string[],
      around: Range | null,
      { before, after, within }: Sides,
    ): Edges {
      const [model] = ranges as [Range]
      const taken = own
        .filter((mark) => mark.to === 'slot' && covers(model, mark))
        .sort((a, b) => a.start - b.start)
      const first = taken[0]
      const last = taken.at(-1)
      /** Whether what was taken in stands at the edge, or all pages have the same between that and the edge. */
      const isFirst =
        first &&
        (first.start === model.start || allHave(texts, 'startsWith', text.slice(model.start, first.end)))
      const isLast =
        last && (last.end === model.end || allHave(texts, 'endsWith', text.slice(last.start, model.end)))
      const set = (range: Range | null | undefined, to: FrameMark['to']): Move | null =>
        range ? { set: { path, start: range.start, end: range.end, to } } : null
      const framedBy = around && own.find((mark) => mark.to === 'frame' && covers(mark, around))
      return {
        startOut: set(before, 'slot'),
        startIn: isFirst
          ? { unset: first }
          : set(
              within.find(({ start }) => start === model.start),
              'frame',
            ),
        endOut: set(after, 'slot'),
        endIn: isLast
          ? { unset: last }
          : set(
              within.find(({ end }) => end === model.end),
              'frame',
            ),
        // What its author made the frame's is so no more, once it is taken in again.
        around: framedBy ? { unset: framedBy } : set(around, 'slot'),
      }
    },
  }
}

const allHave = (texts: readonly string[], how: 'startsWith' | 'endsWith', part: string): boolean =>
  texts.every((text) => text[how](part))
