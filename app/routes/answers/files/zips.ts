import type { ManifestFile } from '#core/delivery'
import { pool } from '#server/platform'
import { changedSinceZip, filesOfSite } from '#server/sites'
import { requireSite } from '../../../owner.server'
import type { Route } from './+types/zips'

export interface AmountOfZip {
  readonly fileCount: number
  readonly sizeBytes: number
}

/** What is in the ZIPs that can be taken. */
export interface AmountsOfZips {
  readonly whole: AmountOfZip
  /** Since the latest that was taken, if one was; `gone` names some of those that are in the site no more. */
  readonly since:
    | (AmountOfZip & {
        readonly takenAt: string
        readonly gone: readonly string[]
        readonly goneCount: number
      })
    | null
}

/** Files that are gone and are named. */
const mostNamed = 50

const amountOf = (files: readonly ManifestFile[]): AmountOfZip => ({
  fileCount: files.length,
  sizeBytes: files.reduce((sum, file) => sum + file.sizeBytes, 0),
})

/** What a ZIP of the finished site would hold: all of it, and what has changed since the latest that was taken. */
export async function loader({ request, params }: Route.LoaderArgs): Promise<Response> {
  const { site, account } = await requireSite(request, params.siteId, 'look')
  const { manifest } = await filesOfSite(pool(), site, request.signal)
  const since = await changedSinceZip(pool(), site.id, account.id, manifest)
  const amounts: AmountsOfZips = {
    whole: amountOf(manifest),
    since: since && {
      takenAt: since.takenAt.toISOString(),
      ...amountOf(since.changed),
      gone: since.gone.slice(0, mostNamed),
      goneCount: since.gone.length,
    },
  }
  return Response.json(amounts)
}
