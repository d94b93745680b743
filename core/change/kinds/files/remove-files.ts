import { gone } from '../../edited'
import type { ChangeKind } from '../../kind'
import { fileLabel, isForAll } from './set-file'

/** Takes files out of the site. */
export interface RemoveFiles {
  readonly fileIds: readonly string[]
}

const said = ({ fileIds }: RemoveFiles, before: Parameters<typeof fileLabel>[0]): string =>
  fileIds.length === 1 ? fileLabel(before, fileIds[0]!) : `${fileIds.length.toLocaleString('en')} files`

export const removeFiles: ChangeKind<RemoveFiles> = {
  manages({ fileIds }, before) {
    const leaving = new Set(fileIds)
    return before.files.some(({ id, kind }) => leaving.has(id) && isForAll(kind))
  },
  title: (change, before) => `removing ${said(change, before)}`,
  question: (change, before) => {
    const isOne = change.fileIds.length === 1
    return {
      name: 'Remove',
      what: `${said(change, before)} ${isOne ? 'leaves' : 'leave'} the site`,
      go: isOne ? 'Remove it' : 'Remove them',
      leave: isOne ? 'Keep it' : 'Keep them',
    }
  },
  apply(site, { fileIds }) {
    const leaving = new Set(fileIds)
    const files = site.files.filter(({ id }) => !leaving.has(id))
    if (files.length + leaving.size !== site.files.length)
      return gone(fileIds.length === 1 ? 'The file' : 'One of the files')
    return { site: { ...site, files } }
  },
}
