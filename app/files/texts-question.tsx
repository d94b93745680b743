import { useEffect, useRef, useState } from 'react'
import { lastUnder } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { type Answer, Question } from '../frame/question'
import { count } from '../parts/format'
import { useFiles } from './files-context'
import { pageOf } from './make-pages'

/** Files that are named. */
const mostNames = 4
/** Pages of one request, and letters of them all together. */
const mostPages = 100
const mostLetters = 2_000_000

/**
 * Asks what is to become of texts that were brought: pages, or files as they are.
 * @param offered more may come while some are made pages of: they are asked about afterwards
 */
export function TextsQuestion({ offered }: { offered: readonly File[] }) {
  const { site } = useSite()
  const { selected } = useSelection()
  const { uploads, offer } = useFiles()
  const { make, work, remarks, done, forgetDone, cancel } = useMakingPages()
  const isDone = done.size > 0
  const files = isDone ? offered.filter((file) => done.has(file)) : offered
  const take = (these: readonly File[]) => offer((all) => all.filter((file) => !these.includes(file)))
  const parentId = selected.id === site.homeId ? null : selected.id
  const where = parentId === null ? 'at the top level' : `under “${selected.label}”`
  const isOne = files.length === 1

  function forget() {
    take(files)
    forgetDone()
  }
  const asked: Answer[] = [
    {
      words: isOne ? 'Make it a page' : `Make ${files.length} pages`,
      look: 'go',
      onChoose: () => void make(files, parentId),
    },
    {
      words: isOne ? 'Add it as a file' : 'Add them as files',
      onChoose() {
        const actId = crypto.randomUUID()
        for (const file of files) void uploads.send(file, file.name, { actId })
        take(files)
      },
    },
    { words: 'Leave', onChoose: () => take(files) },
  ]
  const remarked = remarks.length > 0 && (
    <span role="alert" className="mt-1 block">
      {remarks.map((remark) => (
        <span key={remark} className={`block ${isDone ? '' : 'text-rubric'}`}>
          {remark}
        </span>
      ))}
    </span>
  )
  if (work !== null)
    return (
      <Question
        key="work"
        name="Texts"
        lead="Texts"
        ripple={null}
        answers={[{ words: 'Cancel', onChoose: cancel }]}
      >
        <span role="status">{work}</span>
      </Question>
    )
  if (isDone)
    return (
      <Question
        key="done"
        name="Texts"
        lead="Texts"
        ripple={null}
        answers={[{ words: 'Good', look: 'go', onChoose: forget }]}
      >
        {isOne ? 'It is a page now.' : 'They are pages now.'}
        {remarked}
      </Question>
    )
  return (
    <Question key="ask" name="Texts" lead="Texts" ripple={null} answers={asked}>
      {namesOf(files)}. {isOne ? 'It' : 'They'} can stand {where}, or be kept as {isOne ? 'a file' : 'files'}.
      {remarked}
    </Question>
  )
}

function namesOf(files: readonly File[]): string {
  const names = files.slice(0, mostNames).map(({ name }) => `“${name}”`)
  const more = files.length - names.length
  const last = more > 0 ? `${count(more, 'other')}` : names.pop()!
  return `${[names.join(', '), last].filter(Boolean).join(' and ')} ${files.length === 1 ? 'is a text' : 'are texts'}`
}

/** Makes pages of texts, one after the other: those that became none stay offered, with the reason. */
function useMakingPages() {
  const { tree, store } = useSite()
  const { select } = useSelection()
  const { uploads, offer } = useFiles()
  const [work, setWork] = useState<string | null>(null)
  const [remarks, setRemarks] = useState<readonly string[]>([])
  /** Pages by now, which their author is to know something of; others that are one are offered no more. */
  const [done, setDone] = useState<ReadonlySet<File>>(new Set())
  const ending = useRef<AbortController | null>(null)
  useEffect(() => () => ending.current?.abort(), [])

  async function make(files: readonly File[], parentId: string | null) {
    const { signal } = (ending.current = new AbortController())
    const told: string[] = []
    const pages = new Set<File>()
    let added: { id: string; label: string; text: string }[] = []
    let first: string | null = null
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
    setRemarks([])
    setWork('Reading…')
    try {
      for (const file of files) {
        const made = await pageOf(file, { store, uploads, signal, onWork: setWork })
        if ('problem' in made) {
          told.push(`“${file.name}”: ${made.problem}`)
          continue
        }
        if (made.remark !== null) told.push(`“${file.name}”: ${made.remark}`)
        const { label, html } = made.page
        if (added.length >= mostPages || letters + html.length > mostLetters) send()
        const id = crypto.randomUUID()
        added.push({ id, label, text: html })
        first ??= id
        letters += html.length
        pages.add(file)
      }
    } catch {
      if (!signal.aborted) told.push('Something went wrong. Try again in a moment.')
    }
    // What became a page before it was called off is one.
    send()
    if (first !== null) select(first)
    setWork(null)
    setRemarks(told)
    if (pages.size === files.length && told.length > 0) setDone(pages)
    else offer((all) => all.filter((file) => !pages.has(file)))
  }
  const forgetDone = () => {
    setDone(new Set())
    setRemarks([])
  }
  return { make, work, remarks, done, forgetDone, cancel: () => ending.current?.abort() }
}
