import { useEffect, useRef, useState } from 'react'
import { useSite } from '../document/site-context'
import { useFiles } from '../files/files-context'
import { pageOf } from '../files/make-pages'
import { Sending } from '../files/sending'
import { isOfRows } from '../files/text-name'
import { Button } from '../parts/button'
import { untilFetched } from '../parts/fetched'

interface Props {
  readonly files: readonly File[]
  readonly onDone: (html: string, toLink: readonly File[]) => void
}

/** Asks whether texts that were dropped into another are to stand in it, or to be led to as files. */
export function TextsDialog({ files, onDone }: Props) {
  const { store } = useSite()
  const { uploads } = useFiles()
  const [work, setWork] = useState<string | null>(null)
  const [problems, setProblems] = useState<readonly string[]>([])
  /** What they say, where its author should know something before it is put here. */
  const [ready, setReady] = useState<string | null>(null)
  const ending = useRef<AbortController | null>(null)
  /** Pictures of texts that are not put here after all go with them, whenever that is known. */
  const [sending] = useState(() => new Sending(store, uploads))
  const isPut = useRef(false)
  useEffect(
    () => () => {
      ending.current?.abort()
      if (!isPut.current) sending.takeBack()
    },
    [sending],
  )
  const putHere = (html: string) => {
    isPut.current = true
    onDone(html, [])
  }
  const isOne = files.length === 1
  const areRows = files.every(({ name }) => isOfRows(name))

  async function put() {
    const { signal } = (ending.current = new AbortController())
    const told: string[] = []
    const remarks: string[] = []
    const parts: string[] = []
    setProblems([])
    setWork('Reading…')
    try {
      const { partOfPage } = await untilFetched(() => import('./texts'))
      for (const file of files) {
        const made = await pageOf(file, { store, uploads: sending, signal, onWork: setWork })
        if ('problem' in made) {
          told.push(`“${file.name}”: ${made.problem}`)
          continue
        }
        parts.push(partOfPage(made.page).trimEnd())
        if (made.remark !== null) remarks.push(`“${file.name}”: ${made.remark}`)
      }
    } catch {
      if (signal.aborted) return
      told.push('Something went wrong. Try again in a moment.')
    }
    setWork(null)
    // All of them or none: those that can be read can be dropped again without the others.
    if (told.length > 0) return setProblems(told)
    const html = parts.join('\n')
    if (remarks.length === 0) return putHere(html)
    setProblems(remarks)
    setReady(html)
  }

  return (
    <div className="overflow-auto px-7 pb-5">
      <p>
        {files.map(({ name }) => `“${name}”`).join(', ')}: {isOne ? 'its' : 'their'}{' '}
        {areRows
          ? `rows can stand here as ${isOne ? 'a table' : 'tables'}`
          : 'words can stand here, with the pictures among them'}
        , or a link can lead to {isOne ? 'it as a file' : 'them as files'}.
      </p>
      {problems.map((problem) => (
        <p key={problem} role="alert" className="mt-2 text-rubric">
          {problem}
        </p>
      ))}
      <div className="mt-5 flex flex-wrap items-center gap-4">
        <Button
          look="go"
          disabled={work !== null}
          onClick={() => (ready === null ? void put() : putHere(ready))}
        >
          Put {isOne ? 'its' : 'their'} {areRows ? 'rows' : 'words'} here
        </Button>
        <Button disabled={work !== null || ready !== null} onClick={() => onDone('', files)}>
          {isOne ? 'Link to it' : 'Link to them'}
        </Button>
        {work !== null && <Button onClick={() => onDone('', [])}>Cancel</Button>}
        <span role="status" className="text-sm text-quiet">
          {work}
        </span>
      </div>
    </div>
  )
}
