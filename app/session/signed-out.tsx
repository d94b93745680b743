import { useEffect, useSyncExternalStore } from 'react'
import { whenSignedOutElsewhere } from '../parts/forget'
import { session, type Standing } from './session'

const here: Standing = { kind: 'in' }

/** Signing out takes a moment; then so many looks, so far apart. */
const looks = 10
const lookEveryMs = 500

/** Somebody who signs out leaves nothing in sight in any window. What is typed and not sent is kept for them alone. */
async function leaveWithThem(): Promise<void> {
  for (let look = 0; look < looks && session.get().kind === 'in'; look++) {
    await new Promise((resolve) => setTimeout(resolve, lookEveryMs))
    await session.check()
  }
  if (session.get().kind === 'out')
    location.assign(`/sign-in?next=${encodeURIComponent(location.pathname + location.search)}`)
}

/** How this window stands with its account. */
export const useStanding = (): Standing => useSyncExternalStore(session.subscribe, session.get, () => here)

/**
 * Says that whoever works here is signed out, and where to sign in again: in a tab of its own, so that this one stays as it
 * is. It has to stand before what asks the server.
 */
export function SignedOut({ accountId }: { accountId: string }) {
  const standing = useStanding()
  const isIn = standing.kind === 'in'
  useEffect(() => session.begin(accountId), [accountId])
  useEffect(() => whenSignedOutElsewhere(() => void leaveWithThem()), [])
  // Whoever comes back from the other tab has signed in there, it may be.
  useEffect(() => {
    if (isIn) return
    const check = () => void session.check()
    addEventListener('focus', check)
    return () => removeEventListener('focus', check)
  }, [isIn])
  if (isIn) return null
  return (
    <p
      role="alert"
      className="flex flex-wrap gap-x-4 gap-y-1 border-b border-rubric bg-rubric-wash px-5 py-2.5"
    >
      <span>
        {standing.kind === 'out' ? (
          <>You are signed out.</>
        ) : (
          <>
            This browser is signed in as <b className="font-semibold">{standing.email}</b> now, and this
            window is another account’s.
          </>
        )}{' '}
        What you do here is kept, and is saved when you are back.
      </span>
      <a
        className="link whitespace-nowrap"
        href="/sign-in?again&next=/sign-in/again"
        target="_blank"
        rel="opener"
      >
        Sign in again in a new tab
      </a>
    </p>
  )
}
