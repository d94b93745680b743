import { useSelection, useSite } from '../document/site-context'
import { Pick } from '../parts/picks/pick'

interface Words {
  readonly words: string
  readonly hint?: string
}

/** A yes or no of the chosen page, as words of a sentence. */
export function FlagPick({
  flag,
  label,
  yes,
  no,
  after,
}: {
  flag: 'trial' | 'inMenus' | 'dated' | 'titleAlone'
  label: string
  yes: Words
  no: Words
  after: string
}) {
  const { store } = useSite()
  const { selected } = useSelection()
  return (
    <Pick
      label={label}
      value={selected[flag] ? 'yes' : 'no'}
      options={[
        { value: 'yes', ...yes },
        { value: 'no', ...no },
      ]}
      onPick={(value) =>
        store.change({ kind: 'setPageFlag', pageIds: [selected.id], flag, value: value === 'yes' })
      }
      after={after}
    />
  )
}
