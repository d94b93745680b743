import { X } from 'lucide-react'
import { useSite } from '../../document/site-context'
import { count } from '../../parts/format'

/** Words that the site keeps as right, and the way back for each. */
export function OwnWords() {
  const { site, store } = useSite()
  const { ownWords } = site
  if (ownWords.length === 0) return null
  const sorted = [...ownWords].sort(new Intl.Collator('en').compare)
  return (
    <details className="group border-t border-rule px-7">
      <summary className="flex cursor-pointer items-baseline gap-x-3 py-2 [&::-webkit-details-marker]:hidden">
        <span aria-hidden className="w-3 text-faint group-open:rotate-90">
          ›
        </span>
        {count(ownWords.length, 'word')} of this site’s own, right as{' '}
        {ownWords.length === 1 ? 'it is' : 'they are'}
      </summary>
      <ul
        className="flex max-h-40 flex-wrap gap-x-4 gap-y-1 overflow-auto pb-3 pl-6"
        tabIndex={0}
        aria-label="Words of this site’s own"
      >
        {sorted.map((word) => (
          <li key={word} className="flex items-center gap-x-1">
            {word}
            {store.may('write') && (
              <button
                type="button"
                className="text-quiet hover:text-ink"
                aria-label={`Take out “${word}”`}
                onClick={() => store.change({ kind: 'dropWords', words: [word] })}
              >
                <X aria-hidden size={14} />
              </button>
            )}
          </li>
        ))}
      </ul>
    </details>
  )
}
