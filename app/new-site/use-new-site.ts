import { useMemo } from 'react'
import type { Scheme } from '#core/site'
import { useWorker } from '../workers/use-worker'
import type { NewSiteAnswer, NewSiteGround, NewSiteQuestion } from './new-site.answer'

/** What a plan becomes, worked out beside the interface: one of thousands of lines may be pasted. */
export function useNewSite(name: string, language: string, scheme: Scheme, plan: NewSiteQuestion) {
  const ground = useMemo(() => ({ name, language, scheme }), [name, language, scheme])
  return useWorker<NewSiteGround, NewSiteQuestion, NewSiteAnswer>('new-site', ground, plan)
}
