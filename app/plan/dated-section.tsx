import { checkDate } from '#core/language'
import { datedLabel } from '#core/naming'
import { languagesOf } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { dayOf } from '../parts/format'
import { WritePick } from '../parts/picks/write-pick'
import { FlagPick } from './flag-pick'

/** For a section: whether its pages carry dates. For a page of a dated one: which date. */
export function DatedSection() {
  const { site, tree, store } = useSite()
  const { selected } = useSelection()
  const section = selected.parentId === null ? undefined : tree.byId.get(selected.parentId)
  const isSection = tree.childrenOf(selected.id).length > 0
  return (
    <>
      {isSection && (
        <>
          {' '}
          Its pages are named{' '}
          <FlagPick
            flag="dated"
            label="Names of its pages"
            no={{ words: 'by their labels' }}
            yes={{
              words: 'with a date in front',
              hint: '2025-06-second-count.html: they sort by date, and lists and feeds know what is new',
            }}
            after="."
          />
        </>
      )}
      {section?.dated && (
        <>
          {' '}
          Its date is{' '}
          <WritePick
            label="Date of this page"
            words={datedLabel(tree, selected, languagesOf(site).of(selected))?.date ?? 'not known'}
            value={selected.date ?? ''}
            offers={[dayOf(new Date())].filter((one) => one !== selected.date)}
            hint="2025, 2025-06 or 2025-06-14. Left empty, it is read from the label."
            check={(typed) =>
              typed === '' || checkDate(typed) ? null : 'Write it as 2025, 2025-06 or 2025-06-14.'
            }
            onWrite={(value) =>
              store.change({
                kind: 'setPageText',
                pageId: selected.id,
                field: 'date',
                value: value || null,
                was: selected.date,
              })
            }
            after="."
          />
        </>
      )}
    </>
  )
}
