import { paragraphEdits } from '#core/markup'
import type { Rule } from '../../rule'

/** Paragraphs without tags: a blank line is white space as any other (HTML §3.2.5.2.5, CSS Text §4.1.1). */
export const runTogether: Rule = {
  id: 'run-together',
  grade: 'hinders',
  title: 'Paragraphs that run together',
  why: 'A browser shows a blank line as a space: visitors see one long paragraph.',
  reads: 'text',
  find: ({ runs }, at, was) =>
    runs.map((run, index) => ({
      mark: String(index),
      // Where it begins: all of it is nothing that anybody has to see marked.
      place: at({ ...run, end: run.paragraphs[0]!.end }),
      what:
        run.within?.tagName === 'p'
          ? `${run.paragraphs.length} paragraphs stand in one here, with blank lines between them, and are shown as one.`
          : `${run.paragraphs.length} paragraphs stand here without tags, and are shown as one.`,
      mends: [
        {
          words: run.within?.tagName === 'p' ? 'Part it at the blank lines' : 'Make paragraphs of it',
          was,
          edits: paragraphEdits(run),
        },
      ],
    })),
}
