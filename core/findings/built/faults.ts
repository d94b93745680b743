import type { Hash, Page, SiteFile } from '#core/site'
import { type Finding, type FindingPlace, inPage, type Mend, type ShownColours } from '../rule'
import { builtRules } from './index'

/** Something wrong with a finished page, as a checker of the whole page says it. */
export interface BuiltFault {
  readonly rule: 'built-markup' | 'built-accessibility' | 'built-accessibility-grave' | 'built-colours'
  /** The checker's own name for it. */
  readonly code: string
  readonly what: string
  /** The beginning of the source it stands in; '' where that is not known. */
  readonly piece: string
  /** 1-based, in the finished page; none where that is not known, or in what was kept before it was told. */
  readonly line?: number
  readonly colours?: ShownColours
  /** Of a colour: where a style sheet says it, as that comes out, and a nearby one that can be read. */
  readonly written?: {
    readonly path: string
    readonly hash: Hash
    readonly line: number
    readonly column: number
    /** UTF-16 offsets. */
    readonly start: number
    readonly end: number
    readonly better: string | null
  }
}

/** Pages named where one thing is wrong on many: it stands in their template. */
const mostNamed = 3

/** What makes two faults one: the same thing at the same piece, or the same colours by the same words of a style sheet. */
const sameness = ({ rule, code, piece, written }: BuiltFault) =>
  `${rule} ${code} ${rule === 'built-colours' ? (written?.start ?? '') : piece}`.trim()

/** Where a colour can be mended, and how; nothing where its sheet comes out otherwise than it is written. */
function mendOf(
  { written }: BuiltFault,
  sheets: ReadonlyMap<string, SiteFile>,
): { readonly place: FindingPlace; readonly mends: readonly Mend[] } | null {
  const file = written && sheets.get(written.path)
  if (!file || file.hash !== written.hash) return null
  const { line, column, start, end, better } = written
  return {
    place: { kind: 'file', id: file.id, line, column, start, end },
    mends:
      better === null
        ? []
        : [
            {
              words: `Make it ${better}`,
              edits: [{ start, end, text: better }],
              was: file.hash,
              isOther: true,
            },
          ],
  }
}

/**
 * What was found on finished pages: what is wrong on several of them alike is told once, at the first, with
 * how many have it.
 * @param sheets style sheets of the site, by their paths
 */
export function builtFindings(
  pages: readonly { readonly page: Page; readonly faults: readonly BuiltFault[] }[],
  sheets: ReadonlyMap<string, SiteFile> = new Map(),
): Finding[] {
  const alike = new Map<string, { fault: BuiltFault; pages: Page[] }>()
  for (const { page, faults } of pages)
    for (const fault of faults) {
      const key = sameness(fault)
      const known = alike.get(key)
      if (!known) alike.set(key, { fault, pages: [page] })
      else if (known.pages[known.pages.length - 1] !== page) known.pages.push(page)
    }
  const rank = ({ rule }: Finding) => builtRules.findIndex(({ id }) => id === rule)
  /** Colours of one pair, by the places where they are written: the number stays where offsets do not. */
  const nth = new Map<string, number>()
  const keyOf = (fault: BuiltFault, own: string) => {
    if (fault.rule !== 'built-colours') return own
    const pair = `${fault.rule} ${fault.code}`
    const number = (nth.get(pair) ?? 0) + 1
    nth.set(pair, number)
    return number === 1 ? pair : `${pair} ${number}`
  }
  const findings = [...alike].map(([own, { fault, pages: on }]): Finding => {
    const at = mendOf(fault, sheets)
    // The page that it stands on is named where that is not the place itself.
    const others = at ? on : on.slice(1)
    const named = others.slice(0, mostNamed).map(({ label }) => `“${label}”`)
    const more = others.length - named.length
    const list = `${named.join(', ')}${more > 0 ? ` and ${more} more` : ''}`
    const also = others.length === 0 ? '' : at ? ` Seen on ${list}.` : ` So on ${list}.`
    return {
      rule: fault.rule,
      grade: builtRules.find(({ id }) => id === fault.rule)!.grade,
      key: `${keyOf(fault, own)} ${on.length === 1 ? on[0]!.id : ''}`.trim(),
      place: {
        ...(at?.place ?? { ...inPage(on[0]!), ...(fault.line !== undefined && { madeLine: fault.line }) }),
        piece: fault.piece,
      },
      what: fault.what + also,
      mends: at?.mends ?? [],
      ...(fault.colours && { colours: fault.colours }),
    }
  })
  return findings.sort((a, b) => rank(a) - rank(b))
}
