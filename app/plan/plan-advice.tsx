import { useDeferredValue, useEffect, useMemo, useState } from 'react'
import { useFetcher } from 'react-router'
import type { adviseOnPlan, Finding } from '#core/findings'
import { useSelection, useSite } from '../document/site-context'
import { useMend } from '../document/use-mend'
import { untilFetched } from '../parts/fetched'
import { Refusal } from '../parts/notice'

/** Advice on the plan that has not been dismissed. */
export function useAdvice(dismissed: readonly string[]): Finding[] {
  // Advice can come a moment after the key that calls for it.
  const site = useDeferredValue(useSite().site)
  // So can the rules it is given by.
  const [advise, setAdvise] = useState<typeof adviseOnPlan | null>(null)
  useEffect(() => {
    // Said of the module itself, so that a bundle holds no other of its rules.
    untilFetched(() => import('#core/findings').then((module) => module.adviseOnPlan)).then(
      (rules) => setAdvise(() => rules),
      () => {},
    )
  }, [])
  return useMemo(
    () => (advise ? advise(site).filter((one) => !dismissed.includes(one.key)) : []),
    [advise, site, dismissed],
  )
}

/** What a practised author would remark on in this plan; each can be dismissed for good. */
export function PlanAdvice({ advice }: { advice: readonly Finding[] }) {
  const { tree } = useSite()
  const { select } = useSelection()
  const fetcher = useFetcher<{ problem?: { message: string } }>()
  const { mend } = useMend()
  if (advice.length === 0) return <p className="px-7 py-5 text-quiet">Nothing to remark on in this plan.</p>
  const problem = fetcher.data?.problem
  return (
    <ul className="h-full overflow-auto px-7 py-2">
      {problem && (
        <li>
          <Refusal className="my-1">{problem.message}</Refusal>
        </li>
      )}
      {advice.map((one) => (
        <li key={one.key} className="flex flex-wrap gap-x-5 border-b border-rule py-2.5">
          <span className="min-w-0 flex-1 basis-60">{one.what}</span>
          {one.mends.map((way) => (
            <button
              key={way.words}
              type="button"
              className="link"
              aria-label={`${way.words}: ${one.what}`}
              onClick={() => void mend([[one, way]])}
            >
              {way.words}
            </button>
          ))}
          <button
            type="button"
            className="link"
            aria-label={`Show ${tree.byId.get(one.place.id)?.label}`}
            onClick={() => select(one.place.id)}
          >
            Show it
          </button>
          <button
            type="button"
            className="link"
            aria-label={`Dismiss: ${one.what}`}
            onClick={() => void fetcher.submit({ key: one.key }, { method: 'post' })}
          >
            Dismiss
          </button>
        </li>
      ))}
    </ul>
  )
}
