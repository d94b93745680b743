import { useEffect } from 'react'
import { data, isRouteErrorResponse, useMatches, useRevalidator } from 'react-router'
import { session, whenBack } from '../session/session'
import { useStanding } from '../session/signed-out'
import { Button } from './button'
import { isUnfetched } from './fetched'

/**
 * Asked too often is for a while only (RFC 6585, section 4), as a server that is not well (RFC 9110, section 15.6), and a session
 * that has ended (section 15.5.2): the window says so, and where to sign in again.
 */
const isForAWhile = (status: number) => status >= 500 || status === 429 || status === 401

/**
 * Whether a request failed for want of a connection, or of a server that is well: where it did not answer itself. That may
 * be an answer that was cut in its midst, one of somebody in between, or a fault of the server's own.
 */
export const isAway = (error: unknown): boolean =>
  error instanceof Response || isRouteErrorResponse(error) ? isForAWhile(error.status) : true

const unreached = /^(failed to fetch|load failed|networkerror|network error|unable to decode turbo-stream)/i

/**
 * The same of what a view cannot tell from a fault of the window's own, in which an error has any words: that nobody was
 * reached, in the words of each engine for it (Fetch, section 5.6: a TypeError), or that an answer was cut.
 */
export const isUnreached = (error: unknown): boolean =>
  isRouteErrorResponse(error)
    ? isForAWhile(error.status)
    : error instanceof Error && (isUnfetched(error.message) || unreached.test(error.message))

const latest = new Map<string, unknown>()
/** Which site a view shows, or which look at one. */
interface ViewParams {
  readonly siteId?: string
  readonly token?: string
}
const keyOf = (routeId: string, { siteId, token }: ViewParams) => `${siteId ?? token} ${routeId}`

/**
 * What a view shows: from the server, or, while it cannot be reached, what it showed last; null where it
 * has not shown anything. The window keeps what is typed, so it is never replaced by a page of errors.
 */
export async function loadOrLatest<T>(
  routeId: string,
  { params, serverLoader }: { params: ViewParams; serverLoader: () => Promise<T> },
): Promise<T | null> {
  try {
    return await serverLoader()
  } catch (error) {
    if (!isAway(error)) throw error
    return (latest.get(keyOf(routeId, params)) as T | undefined) ?? null
  }
}

/**
 * Remembers what the views show, that which came with the document too. A loader cannot do that: one that
 * also runs while the window's program starts makes the router take what it is asked to fetch again in the
 * meantime for a part of that start, and the answer for the one that is there.
 */
export function useRememberedViews(): void {
  const matches = useMatches()
  useEffect(() => {
    for (const { id, params, loaderData } of matches)
      if (loaderData !== undefined && loaderData !== null) latest.set(keyOf(id, params), loaderData)
  }, [matches])
}

const notAnswered = 'The server does not answer. Nothing that you typed is lost; try again in a moment.'
const signedOut = 'You are signed out. Nothing that you typed is lost; sign in again, then try once more.'

/** Sends a form; one that cannot be sent is told beside it, in the shape of one that was refused. */
export const sendOrTell = <T,>(send: () => Promise<T>) =>
  unlessAway(send, (message) => ({ problem: { code: 'offline', message, field: null } }))

/** The same for forms that show a refusal as one sentence, with what else they ask an answer for. */
export const sendOrSay = <T, Beside extends object = object>(send: () => Promise<T>, beside?: Beside) =>
  unlessAway(send, (problem) => ({ ...(beside as Beside), problem }))

async function unlessAway<T, Told>(send: () => Promise<T>, told: (message: string) => Told) {
  try {
    return await send()
  } catch (error) {
    if (!isAway(error)) throw error
    const isSignedOut = session.get().kind !== 'in'
    // With the status of a refusal, after which a view is not fetched anew: it could not be had, and its form would go.
    return data(told(isSignedOut ? signedOut : notAnswered), { status: 503 })
  }
}

/** What stands in a view that could not be fetched. */
export function NotFetched() {
  const { revalidate, state } = useRevalidator()
  const isSignedOut = useStanding().kind !== 'in'
  useEffect(() => whenBack(() => void revalidate()), [revalidate])
  return (
    <div className="p-7" role="alert">
      <p className="mb-3">
        {isSignedOut
          ? 'You are signed out, so this cannot be shown now. What you typed is kept and is saved when you are back.'
          : 'The server does not answer, so this cannot be shown now. What you typed is kept and is saved when it is back.'}
      </p>
      <Button disabled={state !== 'idle'} onClick={() => void revalidate()}>
        Try again
      </Button>
    </div>
  )
}
