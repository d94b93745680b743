import { useEffect, useState } from 'react'
import type { FileUse } from '#server/sites'
import { useSite } from '../document/site-context'

/**
 * Where the site's files are used, by their ids; null until the server has told.
 * @param isWanted false while nobody looks
 */
export function useUses(isWanted = true): Readonly<Record<string, readonly FileUse[]>> | null {
  const { site, settled } = useSite()
  const [uses, setUses] = useState<Readonly<Record<string, readonly FileUse[]>> | null>(null)
  useEffect(() => {
    if (!isWanted) return
    const abort = new AbortController()
    fetch(`/sites/${site.id}/files`, { signal: abort.signal })
      .then((response) => (response.ok ? response.json() : null))
      .then((told: { uses: Record<string, FileUse[]> } | null) => told && setUses(told.uses))
      // Without a connection the next revision asks again.
      .catch(() => {})
    return () => abort.abort()
  }, [site.id, settled, isWanted])
  return uses
}
