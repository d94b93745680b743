import { Tabs } from 'radix-ui'
import { requireSite } from '../owner.server'
import { ChosenPage } from '../plan/chosen-page'
import { PlanDiagram } from '../plan/plan-diagram'
import { PlanText } from '../plan/plan-text'
import type { Route } from './+types/plan'

export async function loader({ request, params }: Route.LoaderArgs) {
  await requireSite(request, params.siteId)
  return null
}

const tab =
  'border-b-3 border-transparent pt-1 pb-1.5 text-quiet data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink'

export default function PlanView() {
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr]">
      <ChosenPage />
      <Tabs.Root defaultValue="diagram" className="grid min-h-0 grid-rows-[auto_1fr] border-t border-rule">
        <Tabs.List aria-label="The plan as" className="flex gap-5 border-b border-rule px-7">
          <Tabs.Trigger value="diagram" className={tab}>
            Diagram
          </Tabs.Trigger>
          <Tabs.Trigger value="text" className={tab}>
            Text
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="diagram" className="min-h-0" tabIndex={-1}>
          <PlanDiagram />
        </Tabs.Content>
        <Tabs.Content value="text" className="min-h-0" tabIndex={-1}>
          <PlanText />
        </Tabs.Content>
      </Tabs.Root>
    </div>
  )
}
