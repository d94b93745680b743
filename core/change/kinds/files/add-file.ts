import { isAskedForByName } from '#core/links'
import { ownPathOf } from '#core/naming'
import { cleanLabel } from '#core/plan'
import type { FileKind, Hash } from '#core/site'
import { refuse } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Adds a file whose bytes are stored already. */
export interface AddFile {
  readonly id: string
  readonly fileKind: FileKind
  readonly label: string
  readonly hash: Hash
  readonly sizeBytes: number
}

export const addFile: ChangeKind<AddFile> = {
  title: ({ label }) => `adding ${label}`,
  question: ({ label }) => ({
    name: 'Add',
    what: `${label} joins the site`,
    go: 'Add it',
    leave: 'Leave it out',
  }),
  apply(site, change) {
    const { id, fileKind: kind, hash, sizeBytes } = change
    const typed = cleanLabel(change.label)
    // What is asked for by its name stands where it is asked for, whatever the scheme.
    const label = isAskedForByName(typed) && ownPathOf(`/${typed}`) !== null ? `/${typed}` : typed
    if (label === '') return refuse('invalid', 'A file needs a name.')
    if (site.files.some((file) => file.id === id)) return { site }
    const file = { id, kind, label, seq: site.nextSeq, hash, sizeBytes }
    return { site: { ...site, nextSeq: site.nextSeq + 1, files: [...site.files, file] } }
  },
}
