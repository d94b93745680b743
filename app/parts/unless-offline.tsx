import { useEffect } from 'react'
import { isRouteErrorResponse, useMatches, useRevalidator } from 'react-router'
import { Button } from './button'

/** Whether a request failed for want of a connection, or of a server that is well. */
function isAway(error: unknown): boolean {
  if (error instanceof Response) return error.status >= 500
  if (isRouteErrorResponse(error)) return error.status >= 500
  return error instanceof TypeError || error instanceof DOMException
}

const latest = new Map<string, unknown>()
const keyOf = (routeId: string, siteId: string | undefined) => `${siteId} ${routeId}`

/**
 * What a view shows: from the server, or, while it cannot be reached, what it showed last; null where it
 * has not shown anything. The window keeps what is typed, so it is never replaced by a page of errors.
 */
export async function loadOrLatest<T>(
  routeId: string,
  { params, serverLoader }: { params: { siteId?: string }; serverLoader: () => Promise<T> },
): Promise<T | null> {
  try {
    return await serverLoader()
  } catch (error) {
    if (!isAway(error)) throw error
    return (latest.get(keyOf(routeId, params.siteId)) as T | undefined) ?? null
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
      if (loaderData !== undefined && loaderData !== null) latest.set(keyOf(id, params.siteId), loaderData)
  }, [matches])
}

/** An answer to a form that could not be sent, in the shape of one that was refused. */
export const notSent = {
  problem: {
    code: 'offline',
    message: 'The server does not answer. Nothing that you typed is lost; try again in a moment.',
    field: null,
  },
}

/** Sends a form; one that cannot be sent is told beside it. */
export async function sendOrTell<T>(send: () => Promise<T>): Promise<T | typeof notSent> {
  try {
    return await send()
  } catch (error) {
    if (!isAway(error)) throw error
    return notSent
  }
}

/** What stands in a view that could not be fetched. */
export function NotFetched() {
  const { revalidate, state } = useRevalidator()
  return (
    <div className="p-7" role="alert">
      <p className="mb-3">
        The server does not answer, so this cannot be shown now. What you typed is kept and is saved when it
        is back.
      </p>
      <Button disabled={state !== 'idle'} onClick={() => void revalidate()}>
        Try again
      </Button>
    </div>
  )
}
