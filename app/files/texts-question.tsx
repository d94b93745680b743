import { useState } from 'react'
import { lastUnder } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { Question } from '../frame/question'
import { count } from '../parts/format'
import { useFiles } from './files-context'

/** Files that are named. */
const mostNames = 4
/** Pages of one request, and letters of them all together. */
const mostPages = 100
const mostLetters = 2_000_000

/** Asks what is to become of text files that were brought: pages, or files as they are. */
export function TextsQuestion({ files }: { files: readonly File[] }) {
  const { site, tree, store } = useSite()
  const { selected } = useSelection()
  const { uploads, offer } = useFiles()
  const [problem, setProblem] = useState<string | null>(null)
  const parentId = selected.id === site.homeId ? null : selected.id
  const where = parentId === null ? 'at the top level' : `under “${selected.label}”`
  const names = files.slice(0, mostNames).map(({ name }) => `“${name}”`)
  const more = files.length - names.length
  const last = more > 0 ? `${count(more, 'other')}` : names.pop()!
  const number = `${[names.join(', '), last].filter(Boolean).join(' and ')} ${files.length === 1 ? 'is a text' : 'are texts'}`

  async function makePages() {
    try {
      const { pageOfFile } = await import('../writing/texts')
      let added: { id: string; label: string; text: string }[] = []
      let letters = 0
      let after = lastUnder(tree, parentId, [])
      const send = () => {
        if (added.length === 0) return
        store.change({
          kind: 'moveText',
          why: 'files',
          texts: [],
          added,
          parentId,
          after,
          removed: [],
          places: [],
        })
        after = added[added.length - 1]!.id
        added = []
        letters = 0
      }
      for (const file of files) {
        const { label, html } = pageOfFile(file.name, await file.text())
        if (added.length >= mostPages || letters + html.length > mostLetters) send()
        added.push({ id: crypto.randomUUID(), label, text: html })
        letters += html.length
      }
      send()
      offer([])
    } catch {
      setProblem('A file could not be read. Is it still where it was?')
    }
  }
  return (
    <Question
      name="Texts"
      lead="Texts"
      ripple={null}
      answers={[
        {
          words: files.length === 1 ? 'Make it a page' : `Make ${files.length} pages`,
          look: 'go',
          onChoose: () => void makePages(),
        },
        {
          words: files.length === 1 ? 'Add it as a file' : 'Add them as files',
          onChoose() {
            for (const file of files) void uploads.send(file, file.name)
            offer([])
          },
        },
        { words: 'Leave', onChoose: () => offer([]) },
      ]}
    >
      {number}. {files.length === 1 ? 'It' : 'They'} can stand {where}, or be kept as{' '}
      {files.length === 1 ? 'a file' : 'files'}.
      {problem !== null && (
        <span role="alert" className="block text-rubric">
          {problem}
        </span>
      )}
    </Question>
  )
}
