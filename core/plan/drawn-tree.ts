/** What branches off in a drawn tree: box-drawing characters, or the signs that stand for them. */
const branch =
  /^(?:[│┃|](?=[ \t\u00a0])|[ \t\u00a0])*(?:[├└┣┗╠╚╰][─━═╌-]+|[|+`]-{2,}(?![-+|:])|\\---(?=[^\s-]))[ \t\u00a0]*/u
/** What goes past a line of it. */
const bars = /^(?:[│┃|](?=[ \t\u00a0]|$)|[ \t\u00a0])+/u
/** How many there are of each, at its end. */
const counts = /^\d+ director(?:y|ies)(?:, \d+ files?)?$/

export const isBranch = (line: string): boolean => branch.test(line)

/**
 * Lines of a tree that a tool for listing folders has drawn, as indented ones; others as they are. Lines of nothing but what
 * it is drawn with, and its count at the end, come out empty.
 */
export function undrawn(lines: readonly string[]): readonly string[] {
  // A backslash in front of the first line says that it is text.
  const first = lines.find((line) => line.trim() !== '')
  if (first?.startsWith('\\') || !lines.some(isBranch)) return lines
  return lines.map((line) => {
    if (counts.test(line.trim())) return ''
    const drawing = (branch.exec(line) ?? bars.exec(line))?.[0]
    return drawing ? ' '.repeat(drawing.length) + line.slice(drawing.length) : line
  })
}
