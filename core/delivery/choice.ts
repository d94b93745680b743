/** A file that could be sent, with what it needs of the others. */
export interface ChoosableFile {
  readonly path: string
  readonly kind: 'page' | 'file'
  /** Places, in the list, of files that are to be sent as well and without which this one is not shown whole. */
  readonly needs: readonly number[]
}

/** What a choice of files would mean for visitors. */
export interface ChoiceView {
  /** Files that were left out and that a chosen one needs, each with the first of those and how many they are. */
  readonly missing: readonly { readonly path: string; readonly for: string; readonly count: number }[]
  /** Pages that were left out: visitors go on seeing them as they are there, with the menus of then. */
  readonly staying: readonly string[]
}

/** Holds a choice against what its files need. */
export function lookAtChoice(
  files: readonly ChoosableFile[],
  isChosen: (path: string) => boolean,
): ChoiceView {
  const missing = new Map<string, { path: string; for: string; count: number }>()
  for (const { path, needs } of files) {
    if (!isChosen(path)) continue
    for (const at of needs) {
      const needed = files[at]!.path
      if (isChosen(needed)) continue
      const known = missing.get(needed)
      if (known) known.count += 1
      else missing.set(needed, { path: needed, for: path, count: 1 })
    }
  }
  const staying = files.filter(({ kind, path }) => kind === 'page' && !isChosen(path)).map(({ path }) => path)
  return { missing: [...missing.values()], staying }
}

/** What hosts call the file of a folder that is shown first; which of them, and in what order, differs. */
const homeName = /^(index|default|home|welcome)\.(html?|shtml|php\d?|xhtml|asp|aspx|jsp|cgi)$/i

/**
 * Whether a file that is there and not of the site may be shown in the place of a folder's own home page: many hosts put
 * such a placeholder there, and look for it first.
 * @param homes paths of the site's own home files
 */
export function mayHideHome(path: string, homes: ReadonlySet<string>): boolean {
  const cut = path.lastIndexOf('/') + 1
  return (
    homeName.test(path.slice(cut)) &&
    [...homes].some((home) => home.lastIndexOf('/') + 1 === cut && home.startsWith(path.slice(0, cut)))
  )
}
