import { useSite } from '../document/site-context'
import { Button } from '../parts/button'

/** What could not be done, in words, with what was typed still there to use or to let go. */
export function RefusedNotice() {
  const { refused, store } = useSite()
  if (!refused) return null
  const change = refused.change
  const typed = change?.kind === 'setPageText' || change?.kind === 'setSetting' ? change : null
  const conflict = typed && refused.code === 'changed-elsewhere'
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-rubric bg-rubric-wash px-5 py-2.5"
    >
      <div>
        <p>{refused.message}</p>
        {conflict && (
          <p className="text-sm">
            You typed “{typed.value}”; it is now “{refused.now ?? ''}”.
          </p>
        )}
      </div>
      <div className="ml-auto flex gap-3">
        {conflict && (
          <Button
            className="!py-1"
            onClick={() => store.change({ ...typed, was: refused.now } as Parameters<typeof store.change>[0])}
          >
            Use what I typed
          </Button>
        )}
        <Button className="!py-1" onClick={store.dismiss}>
          {conflict ? 'Keep theirs' : 'Understood'}
        </Button>
      </div>
    </div>
  )
}
