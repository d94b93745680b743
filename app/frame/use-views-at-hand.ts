import { useEffect } from 'react'
import { fetchEditor } from '../parts/editor/lazy-editor'
import { views } from './views'

/** Nothing is fetched ahead while the window is still busy with what was asked for. */
const pauseMs = 4_000

interface Manifest {
  readonly routes: Readonly<Record<string, { readonly module: string } | undefined>>
}

/**
 * Fetches the programs of the views that were not opened yet, once the window has nothing else to do:
 * they open at once, and also while the server cannot be reached.
 */
export function useViewsAtHand(): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      // Where React Router keeps what it knows of the routes; without it they are fetched when they are opened.
      const { __reactRouterManifest: manifest } = window as { __reactRouterManifest?: Manifest }
      for (const view of views) {
        const address = manifest?.routes[`routes/${view}`]?.module
        // eslint-disable-next-line no-restricted-syntax -- nobody waits for it
        if (address) void import(/* @vite-ignore */ address).catch(() => {})
      }
      fetchEditor()
    }, pauseMs)
    return () => clearTimeout(timer)
  }, [])
}
