import { cleanLabel } from '#core/plan'
import { elsewhere, gone, labelRefusal } from '../../edited'
import type { ChangeKind } from '../../kind'
import { isShared } from './set-file'

/** Calls a file otherwise; its name follows by the scheme, and what refers to it is rewritten. */
export interface RenameFile {
  readonly fileId: string
  readonly label: string
  readonly was: string
}

export const renameFile: ChangeKind<RenameFile> = {
  manages: isShared,
  title: ({ was }) => `renaming ${was}`,
  question: ({ label, was }) => ({
    name: 'Rename',
    what: `“${was}” becomes “${label}”`,
    go: 'Rename it',
    leave: 'Leave it',
  }),
  apply(site, { fileId, label: typed, was }) {
    const file = site.files.find((one) => one.id === fileId)
    if (!file) return gone('The file')
    const label = cleanLabel(typed)
    if (file.label !== was && file.label !== label)
      return elsewhere(`The name of “${file.label}”`, file.label)
    const unusable = labelRefusal(label)
    if (unusable) return unusable
    return { site: { ...site, files: site.files.map((one) => (one === file ? { ...one, label } : one)) } }
  },
}
