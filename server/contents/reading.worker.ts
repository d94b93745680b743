import { readNewPlan } from '#core/change'
import { findIn, type FoundWords, replaceIn, type TextKind, type Wanted } from '#core/find'
import { longestText } from '#core/site'
import { compileTemplate } from '#core/template'
import {
  type FileFacts,
  type FileSyntax,
  type HtmlFacts,
  readFile,
  readHtml,
  readStyle,
  type StyleFacts,
} from '#core/markup'

type PlanArguments = Parameters<typeof readNewPlan>
type PlanAnswer = ReturnType<typeof readNewPlan>

/** What a reader is asked: one text that an author handed in. */
export type ReadingTask =
  | { readonly kind: 'html' | 'css' | 'template'; readonly text: string }
  | { readonly kind: 'file'; readonly text: string; readonly syntax: FileSyntax }
  | {
      readonly kind: 'plan'
      readonly text: string
      readonly rest: [Pick<PlanArguments[0], 'format'>, PlanArguments[1]]
    }

/** A text that is looked through. */
export interface TextOfKind {
  readonly text: string
  readonly is: TextKind
}

/** Words to find in texts of a site, or to put others in the place of. */
export type WordsTask = { readonly texts: readonly TextOfKind[]; readonly wanted: Wanted } & (
  | {
      readonly kind: 'find'
      /** Told of each text at the most. */
      readonly mostLines: number
    }
  | { readonly kind: 'replace'; readonly by: string }
)

/** What it answers, by the kind of the task. */
export type ReadingAnswer = HtmlFacts | StyleFacts | FileFacts | PlanAnswer | number | FoundWords[] | string[]

/** Reads a text, or looks through several. Runs in a thread of its own, which is ended when it takes too long or too much. */
export default function read(task: ReadingTask | WordsTask): ReadingAnswer {
  switch (task.kind) {
    case 'html':
      return readHtml(task.text)
    case 'css':
      return readStyle(task.text)
    case 'file':
      return readFile(task.text, task.syntax)
    case 'template': {
      // How long it takes, since it will be compiled again wherever pages are made.
      const begun = performance.now()
      compileTemplate(task.text)
      return performance.now() - begun
    }
    case 'find':
      return task.texts.map(({ text, is }) => findIn(text, is, task.wanted, task.mostLines))
    case 'replace':
      return task.texts.map(({ text, is }) => {
        const made = replaceIn(text, is, task.wanted, task.by, longestText)
        if (made === null) throw new RangeError('The text would be too long.')
        return made
      })
    case 'plan':
      return readNewPlan({ text: task.text, ...task.rest[0] }, task.rest[1])
  }
}
