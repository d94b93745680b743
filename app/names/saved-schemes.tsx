import { useEffect, useState } from 'react'
import type { Scheme } from '#core/site'
import type { SavedScheme } from '#server/sites'
import { asJson } from '../document/post'
import { ask } from '../parts/ask'
import { whenBack } from '../session/session'
import { Button } from '../parts/button'
import { FileButton, saveFile } from '../parts/picks/files'

/** What stands in a scheme's file; its schema is in docs/formats.md. */
const fileFormat = 'naming scheme'
const fileVersion = 1

interface Kept {
  readonly schemes: readonly SavedScheme[]
}

/** Schemes kept for the next site: use one, keep this one, take one in from a file or out to one. */
export function SavedSchemes({ scheme, onUse }: { scheme: Scheme; onUse: (scheme: Scheme) => void }) {
  const [schemes, setSchemes] = useState<readonly SavedScheme[] | null>(null)
  const [name, setName] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const [isUnknown, setUnknown] = useState(false)
  useEffect(() => {
    const load = async () => {
      const told = await ask<Kept>('/schemes', {})
      setUnknown('problem' in told)
      if (!('problem' in told)) setSchemes(told.schemes)
    }
    void load()
    return whenBack(() => void load())
  }, [])

  /** @returns whether it was done */
  async function change(what: object): Promise<boolean> {
    setProblem(null)
    const told = await ask<Kept>('/schemes', { method: 'POST', headers: asJson, body: JSON.stringify(what) })
    if ('problem' in told) setProblem(told.problem.message)
    else setSchemes(told.schemes)
    return !('problem' in told)
  }
  const keep = (as: string, what: unknown) => change({ do: 'keep', name: as, scheme: what })
  function takeOut(as: string, what: Scheme) {
    const text = JSON.stringify({ format: fileFormat, version: fileVersion, name: as, scheme: what }, null, 2)
    saveFile(text + '\n', `${as.replace(/[^\p{L}\p{N}]+/gu, '-') || 'scheme'}.json`, 'application/json')
  }
  async function takeIn(chosen: File) {
    setProblem(null)
    try {
      const read = JSON.parse(await chosen.text()) as {
        format?: unknown
        version?: unknown
        name?: unknown
        scheme?: unknown
      }
      if (read.format !== fileFormat || read.version !== fileVersion)
        setProblem(`${chosen.name} is no naming scheme of version ${fileVersion}.`)
      else await keep(typeof read.name === 'string' && read.name ? read.name : chosen.name, read.scheme)
    } catch {
      setProblem(`${chosen.name} is no JSON file.`)
    }
  }
  return (
    <section aria-label="Schemes for the next site" className="mt-6">
      <h3 className="mb-1 text-[19px]">Kept for the next site</h3>
      {isUnknown && (
        <p role="status" className="mb-2 text-sm text-quiet">
          What you kept cannot be shown now; it is when the server answers.
        </p>
      )}
      <ul className="mb-2 text-sm">
        {(schemes ?? []).map((one) => (
          <li key={one.name} className="flex items-baseline gap-4 leading-7">
            <span className="min-w-40 font-semibold">{one.name}</span>
            <button type="button" className="link" onClick={() => onUse(one.scheme)}>
              Try it here
            </button>
            <button type="button" className="link" onClick={() => takeOut(one.name, one.scheme)}>
              Save as a file
            </button>
            <button
              type="button"
              className="link"
              aria-label={`Forget ${one.name}`}
              onClick={() => void change({ do: 'forget', name: one.name })}
            >
              Forget
            </button>
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          // What was not taken is still to be kept.
          void keep(name, scheme).then((isKept) => isKept && setName(''))
        }}
      >
        <label className="w-56 text-sm text-quiet">
          Keep this scheme as
          <input
            className="field text-[15px] text-ink"
            value={name}
            maxLength={100}
            required
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Button type="submit" className="!py-1">
          Keep it
        </Button>
        <FileButton
          words="Read one from a file"
          accept=".json,application/json"
          onFile={(chosen) => void takeIn(chosen)}
        />
      </form>
      {problem !== null && (
        <p role="alert" className="mt-2 text-sm text-rubric">
          {problem}
        </p>
      )}
    </section>
  )
}
