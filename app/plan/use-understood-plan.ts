import { useMemo } from 'react'
import type { EditedPlan } from '#core/change'
import type { Site } from '#core/site'
import { useWorker } from '../workers/use-worker'
import type { PlanAnswer, PlanGround } from './plan.answer'

/** How an edited plan is taken, worked out beside the interface: it may have thousands of lines. */
export function useUnderstoodPlan(
  { pages, homeId, name, scheme, language }: Site,
  edited: EditedPlan | null,
) {
  const ground = useMemo(
    () => ({ pages, homeId, name, scheme, language }),
    [pages, homeId, name, scheme, language],
  )
  return useWorker<PlanGround, EditedPlan, PlanAnswer>('plan', ground, edited)
}
