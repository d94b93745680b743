import { nameLabel } from '#core/naming'
import { useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { rippleWords } from '../parts/ripple-words'
import { Question } from './question'

/** After a page that is out in the world was renamed: whether its address is to change as well. */
export function AddressQuestion({ pageId, onEnd }: { pageId: string; onEnd: () => void }) {
  const { site, tree, names, store } = useSite()
  const page = tree.byId.get(pageId)
  const path = names.pages.get(pageId)?.path ?? ''
  const wanted = page ? nameLabel(page.label, site.scheme, site.language).name : ''
  const isSettled = !page || page.keptName === null || page.keptName === wanted
  const { ripple, isCurrent } = useRipple(isSettled ? null : { kind: 'releaseNames', pageIds: [pageId] })
  if (!page || isSettled) return null
  return (
    <Question
      name="Address"
      // The page has its new label: the author may well be typing the next one.
      takesFocus={false}
      ripple={ripple}
      answers={[
        {
          words: 'Change the address too',
          onChoose: () => {
            store.change({ kind: 'releaseNames', pageIds: [pageId] }, isCurrent)
            onEnd()
          },
        },
        { words: 'Keep the address', look: 'go', onChoose: onEnd },
      ]}
    >
      “<bdi>{page.label}</bdi>” keeps its address <span className="font-mono text-[13px]">{path}</span>, which
      is published. {ripple && `If it changes: ${rippleWords(ripple)}.`}
    </Question>
  )
}
