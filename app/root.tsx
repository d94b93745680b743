import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useRouteLoaderData,
} from 'react-router'
import type { Route } from './+types/root'
import { keepEarlyClicks, useEarlyClicks } from './frame/early-clicks'
import { requestContext } from './edge/context'
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
  return <Outlet />
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const missing = isRouteErrorResponse(error) && error.status === 404
  const kept = isRouteErrorResponse(error) && error.status === 403
  const data: unknown = kept ? error.data : null
  const told = (data as { problem?: { message?: string } } | null)?.problem?.message
  return (
    <main className="mx-auto max-w-xl px-4 sm:px-8 py-24">
      <title>{missing ? 'Not found – Rubricant' : 'Something failed – Rubricant'}</title>
      <h1 className="mb-3 text-4xl">
        {missing ? 'There is nothing here' : kept ? 'This is not for you to do' : 'Something failed'}
      </h1>
      <p className="mb-6 text-quiet">
        {missing
          ? 'No page of Rubricant has this address, or it belongs to another account.'
          : kept
            ? (told ?? 'Your account may not do this.')
            : 'This was our fault, and it has been noted. What you wrote before is saved; try again in a moment.'}
      </p>
      <a className="link" href="/sites">
        Go to your sites
      </a>
    </main>
  )
}
