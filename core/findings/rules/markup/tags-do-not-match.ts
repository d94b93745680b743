import type { TagFault } from '#core/markup'
import type { Rule } from '../../rule'

/** A tag that does not match, as a sentence. */
export const tagSentence = ({ kind, name }: Pick<TagFault, 'kind' | 'name'>): string =>
  kind === 'stray'
    ? `“</${name}>” closes nothing that is open.`
    : `“<${name}>” is opened and not closed where it should be.`

/** Elements that are opened and not closed, and closed that were not opened. */
export const tagsDoNotMatch: Rule = {
  id: 'tags-do-not-match',
  grade: 'hinders',
  title: 'Tags that do not match',
  why: 'A browser closes them where it thinks fit: what follows may be bold, a link, or outside of its box.',
  reads: 'text',
  find: ({ tags }, at) => {
    const seen = new Map<string, number>()
    return tags.map((fault) => {
      const mark = `${fault.kind} ${fault.name}`
      const index = seen.get(mark) ?? 0
      seen.set(mark, index + 1)
      return { mark: `${mark} ${index}`, place: at(fault), what: tagSentence(fault) }
    })
  },
}
