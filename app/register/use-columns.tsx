import { useMemo } from 'react'
import { useRouteLoaderData } from 'react-router'
import type { Place } from '#core/plan'
import type { View } from '../frame/views'
import { templateChoices } from '#core/template'
import { useProposal } from '../document/proposal'
import { useSite } from '../document/site-context'
import { Path } from '../parts/path'
import { StateMark } from '../parts/state-mark'
import { isGrave, withoutAside } from '#core/findings'
import type { loader as checksLoader } from '../routes/checks'
import type { loader as uploadLoader } from '../routes/upload'
import type { RegisterColumn } from './column'

const trialWord = <span className="font-mono text-[13px] text-quiet italic">trial page</span>

/** The columns of the register in each view. */
export function useColumns(view: View): readonly RegisterColumn[] {
  const { names, site } = useSite()
  const { paths } = useProposal()
  const checks = useRouteLoaderData<typeof checksLoader>('routes/checks')
  const upload = useRouteLoaderData<typeof uploadLoader>('routes/upload')

  return useMemo(() => {
    const file = (quiet: boolean) => (place: Place) => {
      if (place.trial) return trialWord
      const { page } = place
      const note = page.ownName !== null ? 'own' : page.keptName !== null ? 'kept' : null
      return (
        <>
          <Path path={names.pages.get(page.id)?.path ?? ''} className={quiet ? 'text-quiet' : ''} />
          {note && (
            <span
              className="ml-1.5 shrink-0 text-xs text-lapis"
              title={note === 'own' ? 'A name its author gave it' : 'A name held still when others changed'}
            >
              {note}
            </span>
          )}
        </>
      )
    }
    switch (view) {
      case 'plan':
        return [{ title: 'File', width: 'minmax(0, 1.05fr)', cell: file(false) }]
      case 'names': {
        if (!paths) return [{ title: 'File', width: 'minmax(0, 1.5fr)', cell: file(false) }]
        return [
          { title: 'File now', width: 'minmax(0, 1fr)', cell: file(true) },
          {
            title: 'File then',
            width: 'minmax(0, 1fr)',
            cell: ({ page, trial }) => (trial ? trialWord : <Path path={paths.get(page.id) ?? ''} />),
          },
        ]
      }
      case 'template': {
        if (site.templates.length === 1) return []
        const chosen = templateChoices(site)
        const nameOf = new Map(site.templates.map(({ id, name }) => [id, name]))
        return [
          {
            title: 'Template',
            width: '122px',
            cell: ({ page }) => (
              <span
                className={`truncate text-sm ${page.templateId === null ? 'text-quiet' : 'text-lapis'}`}
                title={page.templateId === null ? 'As its place has it' : 'Chosen for this page'}
              >
                {nameOf.get(chosen.get(page.id)!)}
              </span>
            ),
          },
        ]
      }
      case 'pages':
        if (site.pages.every((page) => page.title === null)) return []
        return [
          {
            title: 'Own title',
            width: '92px',
            cell: ({ page }) =>
              page.title === null ? null : (
                <span className="truncate text-sm text-quiet" title={page.title}>
                  {page.title}
                </span>
              ),
          },
        ]
      case 'checks': {
        const numbers = new Map<string, number>()
        for (const finding of withoutAside(checks?.findings ?? [], site.checking).open.filter(isGrave))
          numbers.set(finding.place.id, (numbers.get(finding.place.id) ?? 0) + 1)
        return [
          {
            title: 'Findings',
            width: '72px',
            cell: ({ page }) => {
              const number = numbers.get(page.id)
              return number ? <span className="font-semibold text-rubric">{number}</span> : null
            },
          },
        ]
      }
      case 'upload':
        return [
          { title: 'File', width: 'minmax(0, 1.05fr)', cell: file(false) },
          {
            title: 'There',
            width: '116px',
            cell: ({ page, trial }) => {
              const state = trial ? undefined : upload?.comparison?.pageStates[page.id]
              return state ? <StateMark state={state} /> : null
            },
          },
        ]
    }
  }, [view, site, names, paths, checks, upload])
}
