import { useEffect } from 'react'
import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useLocation,
  useRevalidator,
  useRouteLoaderData,
} from 'react-router'
import type { Route } from './+types/root'
import { keepEarlyClicks, useEarlyClicks } from './frame/early-clicks'
import { OnItsWay } from './frame/on-its-way'
import { requestContext } from './edge/context'
import { Button } from './parts/button'
import { isUnfetched } from './parts/fetched'
import { isUnreached } from './parts/unless-offline'
import { whenBack } from './session/session'
import './styles/app.css'

export function loader({ context }: Route.LoaderArgs) {
  return { nonce: context.get(requestContext).nonce }
}

// The nonce belongs to the document that was loaded; later answers have others that it must not use.
export const shouldRevalidate = () => false

export const meta: Route.MetaFunction = () => [{ title: 'Rubricant' }]

export function Layout({ children }: { children: React.ReactNode }) {
  const nonce = useRouteLoaderData<typeof loader>('root')?.nonce
  // Browsers hide a nonce from the DOM, so what hydrates has to leave it as it is.
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <link rel="icon" href="/icon.svg" type="image/svg+xml" />
        <Meta />
        <Links />
        <script
          nonce={nonce}
          suppressHydrationWarning
          // Libraries that add a style element ask for the nonce under this name.
          dangerouslySetInnerHTML={{
            __html: `window.__webpack_nonce__=${JSON.stringify(nonce ?? '')};${keepEarlyClicks}`,
          }}
        />
      </head>
      <body>
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  )
}

export default function App() {
  useEarlyClicks()
  return (
    <>
      <OnItsWay />
      <Outlet />
    </>
  )
}

const isOfProgram = (error: unknown): boolean => error instanceof Error && isUnfetched(error.message)

const isSignedOut = (error: unknown): boolean => isRouteErrorResponse(error) && error.status === 401

/** What stands in the place of a view that cannot be shown: its name, what it means, and whether to ask again helps. */
function outcomeOf(error: unknown): { name: string; means: string; isForAWhile: boolean } {
  if (isRouteErrorResponse(error) && error.status === 404)
    return {
      name: 'There is nothing here',
      means: 'No page of Rubricant has this address, or it belongs to another account.',
      isForAWhile: false,
    }
  if (isRouteErrorResponse(error) && error.status === 403) {
    const data = error.data as { problem?: { message?: string } } | null
    return {
      name: 'This is not for you to do',
      means: data?.problem?.message ?? 'Your account may not do this.',
      isForAWhile: false,
    }
  }
  if (isSignedOut(error))
    return {
      name: 'You are signed out',
      means: 'Sign in again to go on. What you wrote is kept, and is saved when you are back.',
      isForAWhile: false,
    }
  if (isUnreached(error))
    return {
      name: 'The server does not answer',
      means: 'This cannot be shown now. What you wrote is kept; try again in a moment.',
      isForAWhile: true,
    }
  if (isOfProgram(error))
    return {
      name: 'A part of Rubricant could not be had',
      means: 'It may have been renewed since this window was opened. What you wrote is saved; load it again.',
      isForAWhile: true,
    }
  return {
    name: 'Something failed',
    means:
      'This was our fault, and it has been noted. What you wrote before is saved; try again in a moment.',
    isForAWhile: true,
  }
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const { name, means, isForAWhile } = outcomeOf(error)
  const { revalidate, state } = useRevalidator()
  const { pathname, search } = useLocation()
  // A part of the program that could not be had may have another name by now: all of it is asked for.
  const again = () => (isOfProgram(error) ? location.reload() : revalidate())
  useEffect(() => (isForAWhile ? whenBack(() => void again()) : undefined))
  return (
    <main className="mx-auto max-w-xl px-4 sm:px-8 py-24">
      <title>{`${name} – Rubricant`}</title>
      <h1 className="mb-3 text-4xl">{name}</h1>
      <p className="mb-6 text-quiet">{means}</p>
      <div className="flex flex-wrap items-baseline gap-5">
        {isForAWhile && (
          <Button look="go" disabled={state !== 'idle'} onClick={() => void again()}>
            Try again
          </Button>
        )}
        {isSignedOut(error) ? (
          <a className="link" href={`/sign-in?again&next=${encodeURIComponent(pathname + search)}`}>
            Sign in again
          </a>
        ) : (
          <a className="link" href="/sites">
            Go to your sites
          </a>
        )}
      </div>
    </main>
  )
}
