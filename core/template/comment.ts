import type { Output } from '#core/site'
import type { Part } from './compiled'

/** The comment in front of a part that stands on lines of its own; '' where none are wanted. */
export function commentOf(
  part: Extract<Part, { kind: 'slot' | 'generated' }>,
  { comments }: Pick<Output, 'comments'>,
): string {
  if (!comments || !part.alone) return ''
  const words = part.kind === 'slot' ? part.name : (part.attributes['aria-label'] ?? part.part.name)
  // Nothing that could end a comment, or make it an error (HTML §13.1.6).
  return `<!-- ${words.replace(/--+|[<>]/g, ' ').trim()} -->\n${part.indent}`
}
