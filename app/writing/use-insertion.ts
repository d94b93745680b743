import { useState } from 'react'
import { encodePath, escapeAttribute, escapeText } from '#core/markup'
import { namesOf, splitFileName } from '#core/naming'
import { useSite } from '../document/site-context'
import { useFiles } from '../files/files-context'
import { useStableActions } from '../parts/use-stable-actions'
import type { WantedPicture } from './picture-dialog'

/** A piece of HTML to put where files were dropped, and where its author writes next. */
export interface Inserted {
  readonly text: string
  /** Offset into `text`. */
  readonly cursor: number
}

/** Pictures that wait for what their author says of them. */
export interface AskedPictures {
  readonly pictures: readonly WantedPicture[]
  /** Called once: with the HTML, or with '' when they are not to stand here after all. */
  readonly done: (html: string) => void
}

/**
 * Puts files into the site and makes the HTML that shows or leads to them. Pictures are asked about first,
 * while they are on their way already.
 */
export function useInsertion() {
  const { store } = useSite()
  const { uploads } = useFiles()
  const [asked, setAsked] = useState<AskedPictures | null>(null)

  const wanted = (file: File): WantedPicture => {
    const name = file.name || 'Picture.png'
    return {
      name,
      shown: URL.createObjectURL(file),
      sizeBytes: file.size,
      bytes: () => Promise.resolve(file),
      fileId: uploads.send(file, name),
    }
  }
  /** Asks about pictures; resolves to the HTML that shows them. */
  const ask = (pictures: readonly WantedPicture[]): Promise<string> =>
    new Promise((resolve) => {
      setAsked({
        pictures,
        done(html) {
          setAsked(null)
          for (const { shown } of pictures) if (shown.startsWith('blob:')) URL.revokeObjectURL(shown)
          resolve(html)
        },
      })
    })
  const { insert } = useStableActions({
    async insert(files: readonly File[]): Promise<Inserted> {
      const pictures = files.filter((file) => file.type.startsWith('image/'))
      const others = files.filter((file) => !file.type.startsWith('image/'))
      const shown = pictures.length > 0 ? await ask(pictures.map(wanted)) : ''
      const links = await Promise.all(
        others.map(async (file) => {
          const id = await uploads.send(file, file.name)
          const { site } = store.get()
          const added = site.files.find((one) => one.id === id)
          const path = id === null ? undefined : namesOf(site).files.get(id)
          if (!added || path === undefined) return ''
          const address = escapeAttribute(`/${encodePath(path)}`)
          return `<a href="${address}">${escapeText(splitFileName(added.label).stem)}</a>`
        }),
      )
      const text = [shown, ...links].filter((piece) => piece !== '').join('\n')
      return { text, cursor: text.length }
    },
  })
  return { asked, ask, wanted, insert }
}
