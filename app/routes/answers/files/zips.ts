import type { ManifestFile } from '#core/delivery'
import { pool } from '#server/platform'
import { changedSinceZip, filesOfSite } from '#server/sites'
import { requireSite } from '../../../owner.server'
import { sendOrSay } from '../../../parts/unless-offline'
import type { Route } from './+types/zips'

/** Files that are gone and are named. */
const mostNamed = 50

const amountOf = (files: readonly ManifestFile[]) => ({
  fileCount: files.length,
  sizeBytes: files.reduce((sum, file) => sum + file.sizeBytes, 0),
})

/** What a ZIP of the finished site would hold: all of it, and what has changed since the latest that was taken. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, account } = await requireSite(request, params.siteId, 'look')
  const { manifest } = await filesOfSite(pool(), site, request.signal)
  const since = await changedSinceZip(pool(), site.id, account.id, manifest)
  return {
    whole: amountOf(manifest),
    since: since && {
      takenAt: since.takenAt,
      ...amountOf(since.changed),
      gone: since.gone.slice(0, mostNamed),
      goneCount: since.gone.length,
    },
  }
}

export const clientLoader = ({ serverLoader }: Route.ClientLoaderArgs) => sendOrSay(() => serverLoader())
