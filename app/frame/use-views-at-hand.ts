import { useEffect } from 'react'
import { fetchEditor } from '../parts/editor/lazy-editor'
import { untilFetched } from '../parts/fetched'
import { views } from './views'

/** Nothing is fetched ahead while the window is still busy with what was asked for. */
const pauseMs = 4_000

/** What React Router knows of a route: its program comes in several parts. */
interface KnownRoute {
  readonly module: string
  readonly clientLoaderModule?: string
  readonly clientActionModule?: string
}
interface Manifest {
  readonly routes: Readonly<Record<string, KnownRoute | undefined>>
}

/** Where one gets from an open site: its views with what is in them, and what stands beside it. */
const leadsTo = new RegExp(`^routes/((${views.join('|')})(/.*)?|people|bring|sites)$`)

/**
 * Fetches the programs of what was not opened yet, once the window has nothing else to do: it opens at once, and also while the
 * server cannot be reached. Where the program of a route cannot be had the router loads the whole window anew, and without
 * a line that ends it.
 */
export function useViewsAtHand(): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      // Where React Router keeps what it knows of the routes; without it they are fetched when they are opened.
      const { __reactRouterManifest: manifest } = window as { __reactRouterManifest?: Manifest }
      for (const [id, route] of Object.entries(manifest?.routes ?? {})) {
        if (!route || !leadsTo.test(id)) continue
        for (const address of [route.module, route.clientLoaderModule, route.clientActionModule])
          // Nobody waits for it; where the line is down just now it comes when that is back.
          if (address) void untilFetched(() => import(/* @vite-ignore */ address)).catch(() => {})
      }
      fetchEditor()
    }, pauseMs)
    return () => clearTimeout(timer)
  }, [])
}
