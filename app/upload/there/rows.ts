/** A row of a list of files: a folder with what is in it, or a file. */
export type ListRow<T> =
  | { readonly kind: 'folder'; readonly folder: string; readonly files: readonly T[] }
  | { readonly kind: 'file'; readonly file: T }

/** From so many files on, folders are told apart. */
const foldersFrom = 13

/** Files as rows, under the folders they are in where there are many; in the order in which they come. */
export function rowsOf<T extends { readonly path: string }>(files: readonly T[]): ListRow<T>[] {
  if (files.length < foldersFrom) return files.map((file) => ({ kind: 'file', file }))
  const byFolder = new Map<string, T[]>()
  for (const file of files) {
    const folder = file.path.slice(0, file.path.lastIndexOf('/') + 1)
    const list = byFolder.get(folder)
    if (list) list.push(file)
    else byFolder.set(folder, [file])
  }
  return [...byFolder].flatMap(([folder, list]): ListRow<T>[] => [
    { kind: 'folder', folder, files: list },
    ...list.map((file) => ({ kind: 'file' as const, file })),
  ])
}
