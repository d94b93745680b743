import { made, type Node } from './nodes'

/** A paragraph as it was read, with how its letters look. */
export interface Paragraph {
  readonly node: Node
  /** The size of its largest letters, in half points. */
  readonly size: number
  readonly letters: number
  readonly isBold: boolean
  /** Whether nothing says that it is more than text. */
  readonly isText: boolean
}

/** Letters of a heading, at most; and how much larger than the text its letters are. */
const longest = 120
const larger = 1.1

/** The size that most letters have. */
function usualSize(paragraphs: readonly Paragraph[]): number {
  const letters = new Map<number, number>()
  for (const one of paragraphs)
    if (one.isText) letters.set(one.size, (letters.get(one.size) ?? 0) + one.letters)
  return [...letters].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0
}

/** Words without what makes all of them bold. */
const withoutBold = (children: readonly (Node | string)[]): (Node | string)[] =>
  children.flatMap((child) =>
    typeof child === 'object' && child.tag === 'strong' ? child.children : [child],
  )

/** A heading with the words of a paragraph; it is bold by itself. */
const headingOf = ({ node, isBold }: Paragraph, level: number): Node =>
  made(`h${level}`, {}, isBold ? withoutBold(node.children) : node.children)

/**
 * Paragraphs, with headings where nothing says which are some: programs without styles have them as short lines of larger letters,
 * the largest those of the first level.
 */
export function guessedHeadings(paragraphs: readonly Paragraph[]): Node[] {
  const levelOf = ({ node }: Paragraph) => Number(/^h([1-6])$/.exec(node.tag)?.[1] ?? 0)
  if (paragraphs.some((one) => levelOf(one) > 0))
    return paragraphs.map((one) =>
      levelOf(one) > 0 && !one.node.attributes.class ? headingOf(one, levelOf(one)) : one.node,
    )
  const usual = usualSize(paragraphs)
  const isHeading = (one: Paragraph) =>
    one.isText && one.letters > 0 && one.letters <= longest && one.size >= usual * larger
  const sizes = [...new Set(paragraphs.filter(isHeading).map(({ size }) => size))].sort((a, b) => b - a)
  const levels = new Map(sizes.map((size, at) => [size, Math.min(6, at + 1)]))
  return paragraphs.map((one) => (isHeading(one) ? headingOf(one, levels.get(one.size)!) : one.node))
}
