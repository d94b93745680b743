import type { PoorContrast } from '#core/colours'
import type { Hash } from '#core/site'
import type { BuiltFault } from './faults'

/** To one place, downwards: 4.48 is less than the 4.5 that is needed. */
const told = (ratio: number) => String(Math.floor(ratio * 10) / 10)

/** Text that cannot be told from its ground, as a fault of a finished page. */
export function colourFault(
  found: PoorContrast,
  hashOfSheet: (path: string) => Hash | undefined,
): BuiltFault {
  const { text, ground, ratio, needed, scheme, words, count, at, better, piece, line } = found
  const path = at?.path ?? null
  const hash = path === null ? undefined : hashOfSheet(path)
  const more = count > 1 ? `, as in ${count - 1} more ${count === 2 ? 'place' : 'places'} of the page,` : ''
  const large = needed < 4.5 ? 'large letters need' : 'letters of this size need'
  return {
    rule: 'built-colours',
    code: [text, ground, needed, scheme, path ?? ''].join(' ').trim(),
    what: `${scheme === 'dark' ? 'In the dark set ' : ''}“${words}”${more} is ${text} on ${ground}: a contrast of ${told(ratio)}, where ${large} ${needed}.`,
    piece,
    line,
    colours: { text, ground, better },
    ...(hash !== undefined && {
      written: {
        path: path!,
        hash,
        line: at!.line,
        column: at!.column,
        start: at!.start,
        end: at!.end,
        better,
      },
    }),
  }
}
