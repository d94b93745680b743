import deepEqual from 'fast-deep-equal'
import { useEffect, useState } from 'react'
import type { NamingStep } from '#core/naming'
import type { Scheme } from '#core/site'
import { useProposal } from '../document/proposal'
import { useSite } from '../document/site-context'
import { HostsRemarks } from '../names/hosts'
import { NameLadder } from '../names/name-ladder'
import { OldAddresses } from '../names/old-addresses'
import { SavedSchemes } from '../names/saved-schemes'
import { SchemeRipple } from '../names/scheme-ripple'
import { SchemeSentence } from '../names/scheme-sentence'
import { requireSite } from '../owner.server'
import { loadOrLatest } from '../parts/unless-offline'
import type { Route } from './+types/names'

export async function loader({ request, params }: Route.LoaderArgs) {
  await requireSite(request, params.siteId, 'look')
  return null
}

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/names', args)

export default function NamesView() {
  const { site } = useSite()
  const { scheme, propose } = useProposal()
  const [openRule, setOpenRule] = useState<NamingStep['rule'] | null>(null)
  // A scheme that was tried and not used is let go with the view.
  useEffect(() => () => propose(null), [propose])
  const shown = scheme ?? site.scheme
  const tryScheme = (next: Scheme) => propose(deepEqual(next, site.scheme) ? null : next)
  return (
    <div className="grid h-full min-h-0 grid-rows-[1fr_auto]">
      <div className="min-h-0 overflow-auto px-7 pt-6 pb-6">
        <h2 className="mb-2 text-[26px]">Naming scheme</h2>
        <SchemeSentence
          scheme={shown}
          onChange={(part) => tryScheme({ ...shown, ...part })}
          openRule={openRule}
          onOpenRule={setOpenRule}
        />
        <NameLadder scheme={shown} onOpenRule={setOpenRule} />
        <HostsRemarks scheme={shown} onPropose={tryScheme} />
        <OldAddresses />
        <SavedSchemes scheme={shown} onUse={tryScheme} />
      </div>
      {scheme ? <SchemeRipple scheme={scheme} onEnd={() => propose(null)} /> : <span />}
    </div>
  )
}
