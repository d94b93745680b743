import { Suspense, useState } from 'react'
import { languageName } from '#core/language'
import { languagesOf } from '#core/plan'
import type { Page } from '#core/site'
import { useSite } from '../../document/site-context'
import { Button } from '../../parts/button'
import { lazily } from '../../parts/fetched'
import { DialogFrame } from '../dialog-frame'
import { useChangedOriginal } from './use-changed-original'

// It compares texts, which nobody waits for who only writes.
const ChangedInText = lazily(() => import('./changed-text'))

/** Says beside a translation that its original was changed since, what of it, and lets it be said that both say the same again. */
export function OriginalNotice({ page }: { page: Page }) {
  const { site, store } = useSite()
  const changed = useChangedOriginal(page)
  const [isShown, setIsShown] = useState(false)
  if (!changed) return null
  const { original, texts, isCopy } = changed
  const settle = () => {
    setIsShown(false)
    store.change(
      isCopy
        ? { kind: 'renewCopies', copies: [{ pageId: page.id, ofId: original.id, was: page.content }] }
        : { kind: 'confirmTranslations', pageIds: [page.id] },
    )
  }
  const settling = isCopy ? 'Take what it says now' : 'It says the same now'
  return (
    <>
      <p
        role="status"
        className="flex flex-wrap gap-x-4 border-b border-rule bg-ochre-wash px-3 py-1.5 text-sm"
      >
        <span className="min-w-0 wrap-anywhere">
          “{original.label}” in {languageName(languagesOf(site).of(original))} was changed after{' '}
          {isCopy ? 'this copy of it was made' : 'this was translated from it'}.
        </span>
        <button type="button" className="link" onClick={() => setIsShown(true)}>
          What changed
        </button>
        <button type="button" className="link" onClick={settle}>
          {settling}
        </button>
      </p>
      {isShown && (
        <DialogFrame title={`What changed in “${original.label}”`} open onClose={() => setIsShown(false)}>
          <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)_auto]">
            <p className="px-7 pb-1 text-quiet">
              <span className="bg-verdigris-wash px-1">− then</span>,{' '}
              <span className="bg-ochre-wash px-1">+ now</span>: what “{page.label}” has to say as well.
            </p>
            <div className="min-h-0 overflow-auto">
              <Suspense fallback={<p className="px-7 py-3 text-quiet">Comparing them…</p>}>
                {texts.map((text) => (
                  <ChangedInText key={text.slot} text={text} />
                ))}
              </Suspense>
            </div>
            <div className="flex items-center gap-4 border-t border-rule bg-vellum px-7 py-3">
              <Button look="go" onClick={() => setIsShown(false)}>
                Close
              </Button>
              <Button onClick={settle}>{settling}</Button>
            </div>
          </div>
        </DialogFrame>
      )}
    </>
  )
}
