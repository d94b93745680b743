import type { Hash, Site, SiteFile } from '#core/site'
import { elsewhere, gone } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Puts other bytes in the place of a file's. */
export interface SetFile {
  readonly fileId: string
  readonly hash: Hash
  readonly sizeBytes: number
  readonly was: Hash
}

/** As a window asks for it, where the file is a text. */
export interface WriteFile {
  readonly fileId: string
  readonly text: string
  readonly was: Hash
}

export const fileLabel = (site: Site, id: string): string =>
  site.files.find((file) => file.id === id)?.label ?? 'a file'

/** Style sheets and scripts are shown and run by all pages. */
export const isForAll = (kind: SiteFile['kind']): boolean => kind === 'style' || kind === 'script'

export const isShared = ({ fileId }: { readonly fileId: string }, before: Site): boolean =>
  before.files.some(({ id, kind }) => id === fileId && isForAll(kind))

export const setFile: ChangeKind<SetFile, WriteFile> = {
  manages: isShared,
  shown: () => null,
  title: ({ fileId }, before) => `a change of ${fileLabel(before, fileId)}`,
  apply(site, { fileId, hash, sizeBytes, was }) {
    const file = site.files.find((one) => one.id === fileId)
    if (!file) return gone('The file')
    if (file.hash !== was && file.hash !== hash) return elsewhere(`“${file.label}”`, file.hash)
    const next = { ...file, hash, sizeBytes }
    return { site: { ...site, files: site.files.map((one) => (one === file ? next : one)) } }
  },
}
