import { useMemo } from 'react'
import type { Scheme } from '#core/site'
import { useWorker } from '../parts/use-worker'
import type { NewSiteAnswer, NewSiteGround, NewSiteQuestion } from './new-site.worker'

const start = () => new Worker(new URL('./new-site.worker.ts', import.meta.url), { type: 'module' })

/** What a plan becomes, worked out beside the interface: one of thousands of lines may be pasted. */
export function useNewSite(name: string, language: string, scheme: Scheme, plan: NewSiteQuestion) {
  const ground = useMemo(() => ({ name, language, scheme }), [name, language, scheme])
  return useWorker<NewSiteGround, NewSiteQuestion, NewSiteAnswer>(start, ground, plan)
}
