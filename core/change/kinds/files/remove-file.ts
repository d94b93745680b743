import { gone } from '../../edited'
import type { ChangeKind } from '../../kind'
import { fileLabel, isShared } from './set-file'

/** Takes a file out of the site. */
export interface RemoveFile {
  readonly fileId: string
}

export const removeFile: ChangeKind<RemoveFile> = {
  manages: isShared,
  title: ({ fileId }, before) => `removing ${fileLabel(before, fileId)}`,
  question: ({ fileId }, before) => ({
    name: 'Remove',
    what: `${fileLabel(before, fileId)} leaves the site`,
    go: 'Remove it',
    leave: 'Keep it',
  }),
  apply(site, { fileId }) {
    if (!site.files.some((file) => file.id === fileId)) return gone('The file')
    return { site: { ...site, files: site.files.filter((file) => file.id !== fileId) } }
  },
}
