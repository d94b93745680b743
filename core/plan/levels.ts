/** A line of a typed plan: how far in it stands, and what is written there. */
interface TypedLine {
  readonly columns: number
  readonly rest: string
}

/** A sign, as often as a line is deep: `--`, `- -`, `##`. */
const signs = /^([-*+•–#>])(?:[ \t]*\1)*(?=\s)/u
/** An outline number: `1.`, `1.2`, `1.2.3)`. */
const number = /^(\d{1,4}(?:\.\d{1,4})*)[.)]?\s+(?=\S)/

/** Whether a line begins with signs that may tell its level. */
export const hasSigns = (text: string): boolean => signs.test(text)

/** Whether lines are an outline by their numbers. */
export const areNumbered = (lines: readonly string[]): boolean =>
  outlineNumbers(lines.map((rest) => ({ rest }))) !== null

/**
 * Levels that are told by what stands in front of lines, and not by how far in they stand: signs that are repeated, signs
 * under lines without one, or outline numbers each of which continues one above it. Null where nothing tells any, or
 * only indentation does.
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
  const depths = isIndented ? null : signDepths(lines)
  return (
    depths && {
      lines: lines.map(({ rest }, index) => ({
        columns: depths[index]!,
        rest: rest.replace(signs, '').trimStart(),
      })),
      note: 'Levels were read from the signs in front of the lines.',
    }
  )
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
