import { useEffect, useRef, useState } from 'react'
import { cut } from '../../parts/away'
import { asJson } from '../../document/post'
import { readProgress } from '../../parts/read-progress'
import { Button } from '../../parts/button'
import { count } from '../../parts/format'
import { DialogFrame } from '../../writing/dialog-frame'

/** Fetches files from there, and leads to where they are looked at before they become part of the site. */
export function TakeThere({
  siteId,
  destinationId,
  paths,
  onTaken,
  onClose,
}: {
  siteId: string
  destinationId: string
  paths: readonly string[]
  /** Called with the id under which they wait to be brought in. */
  onTaken: (bringingId: string) => void
  onClose: () => void
}) {
  const [progress, setProgress] = useState({ done: 0, all: paths.length })
  const [problem, setProblem] = useState<string | null>(null)
  const latest = useRef(onTaken)
  useEffect(() => {
    latest.current = onTaken
  })
  useEffect(() => {
    const abort = new AbortController()
    const take = async () => {
      const response = await fetch(`/sites/${siteId}/take-there`, {
        method: 'POST',
        headers: asJson,
        body: JSON.stringify({ to: destinationId, paths }),
        signal: abort.signal,
      })
      if (!response.ok || !response.body) throw new TypeError(response.statusText)
      const ended = await readProgress(response.body, (done, all) => setProgress({ done, all }))
      if (ended === null) throw new TypeError('cut')
      if ('problem' in ended) setProblem(ended.problem)
      else latest.current(ended.result as string)
    }
    take().catch(() => {
      if (!abort.signal.aborted) setProblem(cut)
    })
    return () => abort.abort()
  }, [siteId, destinationId, paths])
  return (
    <DialogFrame title="Taking it from there" open onClose={onClose}>
      <div className="grid gap-4 px-7 pb-5">
        {problem ? (
          <p role="alert" className="text-rubric">
            {problem}
          </p>
        ) : (
          <p role="status">
            {progress.done} of {count(progress.all, 'file')}. Then you see what would become of your site,
            before anything changes.
          </p>
        )}
        <span>
          <Button onClick={onClose}>{problem ? 'Close' : 'Cancel'}</Button>
        </span>
      </div>
    </DialogFrame>
  )
}
