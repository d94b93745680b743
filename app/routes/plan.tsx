import Joi from 'joi'
import { Suspense } from 'react'
import { Tabs } from 'radix-ui'
import { pool } from '#server/platform'
import { dismiss, listDismissed } from '#server/sites'
import { answerProblems, checkInput, readForm, requireSite } from '../owner.server'
import { PageNotes } from '../notes/page-notes'
import { ChosenPage } from '../plan/chosen-page'
import { PlanAdvice, useAdvice } from '../plan/plan-advice'
import { loadOrLatest, sendOrTell } from '../parts/unless-offline'
import type { Route } from './+types/plan'
import { lazily } from '../parts/fetched'

const dismissInput = Joi.object<{ key: string }>({ key: Joi.string().max(200).required() })

export async function loader({ request, params }: Route.LoaderArgs) {
  await requireSite(request, params.siteId, 'look')
  return { dismissed: await listDismissed(pool(), params.siteId) }
}

/** Dismisses a piece of advice. */
export async function action({ request, params }: Route.ActionArgs) {
  await requireSite(request, params.siteId, 'write')
  const form = await readForm(request)
  return answerProblems(async () => {
    await dismiss(pool(), params.siteId, checkInput(dismissInput, form).key)
    return { done: true }
  })
}

const tab =
  'border-b-3 border-transparent pt-1 pb-1.5 text-quiet data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink'

const PlanDiagram = lazily(() =>
  import('../plan/diagram/plan-diagram').then((module) => ({ default: module.PlanDiagram })),
)
const PlanText = lazily(() => import('../plan/plan-text').then((module) => ({ default: module.PlanText })))

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrTell(() => serverAction())

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/plan', args)

export default function PlanView({ loaderData }: Route.ComponentProps) {
  const advice = useAdvice(loaderData?.dismissed ?? [])
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_minmax(0,1fr)_auto]">
      <ChosenPage />
      <Tabs.Root defaultValue="diagram" className="grid min-h-0 grid-rows-[auto_1fr] border-t border-rule">
        <Tabs.List aria-label="The plan as" className="flex gap-5 border-b border-rule px-7">
          <Tabs.Trigger value="diagram" className={tab}>
            Diagram
          </Tabs.Trigger>
          <Tabs.Trigger value="text" className={tab}>
            Text
          </Tabs.Trigger>
          <Tabs.Trigger value="advice" className={tab}>
            Advice {advice.length > 0 && <sup className="text-xs font-normal">{advice.length}</sup>}
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="diagram" className="min-h-0" tabIndex={-1}>
          <Suspense>
            <PlanDiagram />
          </Suspense>
        </Tabs.Content>
        <Tabs.Content value="text" className="min-h-0" tabIndex={-1}>
          <Suspense>
            <PlanText />
          </Suspense>
        </Tabs.Content>
        <Tabs.Content value="advice" className="min-h-0" tabIndex={-1}>
          <PlanAdvice advice={advice} />
        </Tabs.Content>
      </Tabs.Root>
      <PageNotes page={null} place={null} />
    </div>
  )
}
