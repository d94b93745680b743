import { encodePath, escapeAttribute, escapeText } from '#core/markup'
import { namesOf, splitFileName } from '#core/naming'
import { useSite } from '../document/site-context'
import { useStableActions } from '../parts/use-stable-actions'
import { useFiles } from './files-context'

/** A piece of HTML to put where files were dropped, and where its author writes next. */
export interface Inserted {
  readonly text: string
  /** Offset into `text`: in the alternative text of a picture, which only its author knows. */
  readonly cursor: number
}

/** Width and height of a picture as a browser shows it, turned as its EXIF says; null for what is none. */
async function dimensionsOf(file: Blob): Promise<{ width: number; height: number } | null> {
  try {
    const bitmap = await createImageBitmap(file)
    const { width, height } = bitmap
    bitmap.close()
    return { width, height }
  } catch {
    return null
  }
}

/** Puts files into the site and makes the HTML that shows or leads to them. */
export function useInsertedFiles(): (files: readonly File[]) => Promise<Inserted> {
  const { store } = useSite()
  const { uploads } = useFiles()
  const { insert } = useStableActions({
    async insert(files: readonly File[]): Promise<Inserted> {
      const pieces = await Promise.all(
        files.map(async (file) => {
          const [id, dimensions] = await Promise.all([
            uploads.send(file, file.name || 'Picture.png'),
            dimensionsOf(file),
          ])
          const { site } = store.get()
          const added = site.files.find((one) => one.id === id)
          const path = id === null ? undefined : namesOf(site).files.get(id)
          if (!added || path === undefined) return ''
          const address = escapeAttribute(`/${encodePath(path)}`)
          if (added.kind !== 'image')
            return `<a href="${address}">${escapeText(splitFileName(added.label).stem)}</a>`
          // A drawing has the size it says, or none: what it is drawn at is for its author to say.
          const size = dimensions ? ` width="${dimensions.width}" height="${dimensions.height}"` : ''
          return `<img src="${address}" alt=""${size}>`
        }),
      )
      const text = pieces.filter((piece) => piece !== '').join('\n')
      const alt = text.indexOf(' alt="')
      return { text, cursor: alt < 0 ? text.length : alt + ' alt="'.length }
    },
  })
  return insert
}
