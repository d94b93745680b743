import { useState } from 'react'
import { checkOwnNameOf } from '#core/naming'
import { useSelection, useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { Pick } from '../parts/picks/pick'

/** Whether the chosen page follows the scheme or has a name of its own; part of a sentence. */
export function OwnName() {
  const { site, store, names } = useSite()
  const { selected } = useSelection()
  const [typed, setTyped] = useState<string | null>(null)
  const refusal = typed === null || typed === '' ? null : checkOwnNameOf(site, selected.id, typed)
  const save = (value: string | null) => {
    store.change({ kind: 'setPageText', pageId: selected.id, field: 'ownName', value, was: selected.ownName })
    setTyped(null)
  }
  if (typed === null)
    return (
      <Pick
        label="Name"
        value={selected.ownName === null ? 'scheme' : 'own'}
        options={[
          {
            value: 'scheme',
            // One that is held still would be another by the scheme of today.
            words: selected.keptName === null ? 'follows the scheme' : 'is kept as it was',
          },
          {
            value: 'own',
            words: selected.ownName === null ? 'is its own…' : `is its own, ${selected.ownName}`,
          },
        ]}
        onPick={(value) =>
          value === 'scheme'
            ? selected.ownName !== null && save(null)
            : setTyped(selected.ownName ?? names.pages.get(selected.id)?.stem ?? '')
        }
        after="."
      />
    )
  return (
    <form
      className="inline-flex flex-wrap items-baseline gap-2 font-sans text-[15px]"
      onSubmit={(event) => {
        event.preventDefault()
        if (!refusal && typed !== '') save(typed)
      }}
    >
      <label>
        is its own,{' '}
        <input
          className="field !w-64 font-mono text-[14px]"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && setTyped(null)}
          aria-invalid={refusal !== null}
          aria-describedby="own-name-refusal"
          autoFocus
        />
      </label>
      <Button type="submit" className="!py-1" disabled={refusal !== null || typed === ''}>
        Use it
      </Button>
      <Button look="quiet" onClick={() => setTyped(null)}>
        Leave it
      </Button>
      {refusal && (
        <span id="own-name-refusal" role="alert" className="w-full text-sm text-rubric">
          {refusal.reason}{' '}
          <button type="button" className="link" onClick={() => setTyped(refusal.proposal)}>
            Use {refusal.proposal}
          </button>
        </span>
      )}
    </form>
  )
}
