/** A line of a typed plan: how far in it stands, and what is written there. */
interface TypedLine {
  readonly columns: number
  readonly rest: string
}

/** A sign, as often as a line is deep: `--`, `- -`, `##`. */
const signs = /^([-*+•–#>])(?:[ \t]*\1)*(?=\s)/u
/** An outline number: `1.`, `1.2`, `1.2.3)`. */
const number = /^(\d{1,4}(?:\.\d{1,4})*)[.)]?\s+(?=\S)/

/** Signs that word processors put in front of list entries, another for each level; one of them is a letter, parted by a tab. */
const kindOfBullet = /^(?:[-*+•–◦▪▫‣●○■□·—§]|o(?=\t))(?=\s)/u
/** A letter or a Roman number as lists are counted with: `a)`, `IV.`. */
const counted = /^([A-Za-z]|[IVXLC]{1,7}|[ivxlc]{1,7})[.)][ \t]+(?=\S)/

/** Whether a line begins with signs that may tell its level. */
export const hasSigns = (text: string): boolean => signs.test(text)

/** Whether lines are an outline by their numbers. */
export const areNumbered = (lines: readonly string[]): boolean =>
  outlineNumbers(lines.map((rest) => ({ rest }))) !== null

/**
 * Levels that are told by what stands in front of lines, and not by how far in they stand: signs that are repeated, signs
 * under lines without one, bullets of several kinds, or outline numbers each of which continues one above it. Letters and
 * Roman numbers that count up tell no level, and go. Null where nothing tells any, or only indentation does.
 * @returns the lines without what told it, and how far in each stands then
 */
export function readLevels(
  lines: readonly TypedLine[],
): { readonly lines: readonly TypedLine[]; readonly note: string | null } | null {
  const isIndented = lines.some(({ columns }) => columns !== lines[0]!.columns)
  const numbers = outlineNumbers(lines)
  if (numbers)
    return {
      lines: lines.map(({ columns, rest }, index) => ({
        columns: isIndented ? columns : (numbers[index] ?? (index === 0 ? 0 : 1)),
        rest: numbers[index] === null ? rest : rest.replace(number, ''),
      })),
      note: isIndented ? null : 'Levels were read from the numbers in front of the lines.',
    }
  const bySigns = isIndented ? null : levelsBySigns(lines)
  if (bySigns) return { ...bySigns, note: 'Levels were read from the signs in front of the lines.' }
  const letters = countedLines(lines)
  if (letters.size === 0) return null
  return {
    lines: lines.map((line, index) =>
      letters.has(index) ? { ...line, rest: line.rest.replace(counted, '') } : line,
    ),
    note: null,
  }
}

/** By the kinds of bullets, else by how often a sign stands there. */
function levelsBySigns(lines: readonly TypedLine[]): { readonly lines: readonly TypedLine[] } | null {
  const kinds = kindDepths(lines)
  const depths = kinds ?? signDepths(lines)
  if (!depths) return null
  const mark = kinds ? kindOfBullet : signs
  return {
    lines: lines.map(({ rest }, index) => ({
      columns: depths[index]!,
      rest: rest.replace(mark, '').trimStart(),
    })),
  }
}

/** How deep each line is by the kind of its bullet, where there are several: one that is new is one deeper than the line before. */
function kindDepths(lines: readonly Pick<TypedLine, 'rest'>[]): number[] | null {
  const levels: string[] = []
  const depths: number[] = []
  let depth = 0
  for (const [index, { rest }] of lines.entries()) {
    const kind = kindOfBullet.exec(rest)?.[0] ?? ''
    // A first line without one is what all others stand under.
    if (kind === '' && index > 0) return null
    const at = levels.indexOf(kind)
    if (at < 0) levels[(depth = index === 0 ? 0 : depth + 1)] = kind
    else depth = at
    // What stood deeper may have another kind the next time.
    levels.length = depth + 1
    depths.push(depth)
  }
  return new Set(lines.map(({ rest }) => kindOfBullet.exec(rest)?.[0] ?? '')).size >
    (kindOfBullet.test(lines[0]?.rest ?? '') ? 1 : 2)
    ? depths
    : null
}

/** Letters and numbers of one level count up from the first. */
const countings: readonly ((nth: number) => string)[] = [
  (nth) => (nth <= 26 ? String.fromCharCode(96 + nth) : ''),
  (nth) => {
    let [left, text] = [nth, '']
    for (const [value, sign] of romans) for (; left >= value; left -= value) text += sign
    return text
  },
]
const romans = [
  [100, 'c'], [90, 'xc'], [50, 'l'], [40, 'xl'], [10, 'x'], [9, 'ix'], [5, 'v'], [4, 'iv'], [1, 'i'],
] as const // prettier-ignore

/** The lines that are counted with letters or Roman numbers: all that stand beside each other are, in order from the first. */
export function countedLines(lines: readonly TypedLine[]): ReadonlySet<number> {
  const found = new Set<number>()
  const open: { readonly columns: number; readonly members: number[] }[] = []
  const end = () => {
    const { members } = open.pop()!
    const marks = members.map((index) => counted.exec(lines[index]!.rest)?.[1] ?? '')
    // The first line of all may be what the others stand under, without being further out.
    const from = marks[0] === '' && members[0] === 0 ? 1 : 0
    const own = marks.slice(from)
    if (own.length < 2) return
    const isUpper = own[0] === own[0]!.toUpperCase()
    const isRun = (countAs: (nth: number) => string) =>
      own.every((mark, index) => {
        const expected = countAs(index + 1)
        return mark !== '' && mark === (isUpper ? expected.toUpperCase() : expected)
      })
    if (countings.some(isRun)) for (const index of members.slice(from)) found.add(index)
  }
  for (const [index, { columns }] of lines.entries()) {
    while (open.length > 0 && open[open.length - 1]!.columns > columns) end()
    const beside = open[open.length - 1]
    if (beside?.columns === columns) beside.members.push(index)
    else open.push({ columns, members: [index] })
  }
  while (open.length > 0) end()
  return found
}

/** The depth of each line's number, null for a line without one; null where they are no outline. */
function outlineNumbers(lines: readonly Pick<TypedLine, 'rest'>[]): (number | null)[] | null {
  const seen = new Set<string>()
  let deep = 0
  let count = 0
  const depths: (number | null)[] = []
  for (const { rest } of lines) {
    const found = number.exec(rest)?.[1]
    if (found === undefined) {
      depths.push(null)
      continue
    }
    const cut = found.lastIndexOf('.')
    // "10.30 Service" continues nothing, and is a label.
    if (cut >= 0 && !seen.has(found.slice(0, cut))) return null
    if (cut >= 0) deep += 1
    count += 1
    seen.add(found)
    depths.push(found.split('.').length)
  }
  return deep > 0 && count * 2 > lines.length ? depths : null
}

/** How many signs stand in front of each line; null where that tells no levels. */
function signDepths(lines: readonly TypedLine[]): number[] | null {
  const depths = lines.map(({ rest }) => (signs.exec(rest)?.[0] ?? '').replace(/\s/g, '').length)
  const heads = depths.filter((depth, index) => depth === 0 && (depths[index + 1] ?? 0) > 0).length
  return depths.some((depth) => depth > 1) || heads > 1 ? depths : null
}
