import { type EditedPlan, understandPlan } from '#core/change'
import type { Site } from '#core/site'

export type PlanGround = Pick<Site, 'pages' | 'homeId' | 'name' | 'scheme' | 'language'>
export type PlanAnswer = ReturnType<typeof understandPlan>

export const planTypedOver = (site: PlanGround, edited: EditedPlan): PlanAnswer =>
  understandPlan(site, edited, () => crypto.randomUUID())
