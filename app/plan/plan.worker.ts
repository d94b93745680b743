import { type EditedPlan, understandPlan } from '#core/change'
import type { Site } from '#core/site'
import { answerQuestions } from '../parts/worker-answers'

export type PlanGround = Pick<Site, 'pages' | 'homeId' | 'name' | 'scheme' | 'language'>
export type PlanAnswer = ReturnType<typeof understandPlan>

answerQuestions((site: PlanGround, edited: EditedPlan): PlanAnswer =>
  understandPlan(site, edited, () => crypto.randomUUID()),
)
