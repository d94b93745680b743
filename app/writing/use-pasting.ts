import { useState } from 'react'
import { useSite } from '../document/site-context'
import { useFiles } from '../files/files-context'
import { Sending } from '../files/sending'
import { useStableActions } from '../parts/use-stable-actions'
import type { Pasting } from '../parts/editor/pasting'
import type { Fitting } from '../parts/editor/put-into'
import { untilFetched } from '../parts/fetched'

/** What was pasted as it is, and may become HTML: Markdown, rows of a spreadsheet, or paragraphs that blank lines part. */
export interface PastedPlain {
  readonly from: number
  readonly text: string
  readonly kind: 'markdown' | 'rows' | 'paragraphs'
}

/** What is pasted into a page: clean HTML with its pictures; Markdown and rows are asked about. */
export function usePasting() {
  const { store } = useSite()
  const { uploads } = useFiles()
  const [plain, setPlain] = useState<PastedPlain | null>(null)
  const { html, text } = useStableActions({
    async html(written: string, into: string): Promise<Fitting> {
      const { cleanHtml, fitInto } = await untilFetched(() => import('./texts'))
      // What is copied from the preview leads to the site, not to where it is previewed.
      const clean = await withPictures(cleanHtml(written.replaceAll(previewed, '/'), into))
      return (text, where) => fitInto(text, where, clean)
    },
    text({ from, text, into }: Omit<PastedPlain, 'kind'> & { readonly into: string }) {
      setPlain(null)
      void untilFetched(() => import('./texts')).then(
        ({ looksLikeMarkdown, paragraphsInText, readsHtmlAt, rowsInText }) => {
          const kind = looksLikeMarkdown(text)
            ? 'markdown'
            : rowsInText(text)
              ? 'rows'
              : paragraphsInText(text)
                ? 'paragraphs'
                : null
          if (kind !== null && readsHtmlAt(into, from)) setPlain({ from, text, kind })
        },
      )
    },
  })
  /** Pictures that came within the HTML become files of the site, shown as large as they were, and no larger than texts are wide. */
  async function withPictures(clean: string): Promise<string> {
    const within = [...new Set([...clean.matchAll(pictureWithin)].map(([tag]) => tag))]
    if (within.length === 0) return clean
    const { placeUsual } = await untilFetched(() => import('./place-picture'))
    const sending = new Sending(store, uploads)
    let result = clean
    for (const [index, tag] of within.entries()) {
      const said = new DOMParser().parseFromString(tag, 'text/html').querySelector('img')!
      const file = blobOf(said.getAttribute('src')!)
      const name = `Picture ${index + 1}.${file?.type.slice(6).replace(/\W.*/, '')}`
      const look = {
        alt: said.getAttribute('alt'),
        width: Number(said.getAttribute('width')) || undefined,
        isLazy: index > 0,
      }
      const html = file && (await placeUsual({ store, uploads: sending }, file, name, look))
      result = result.replaceAll(tag, () => html ?? '<img src="">')
    }
    return result
  }
  const [pasting] = useState<Pasting>(() => ({ html, text }))
  return { pasting, plain, forget: () => setPlain(null) }
}

const previewed = /\bhttps?:\/\/[^\s"'<>/]+\/preview\/[0-9a-f-]{36}\.[^\s"'<>/]+\//g

/** A picture that came with a text, as `cleanHtml` writes it. */
const pictureWithin = /<img [^>]*?src="data:image\/[^"]+"[^>]*>/g

/** The bytes that a data address holds (RFC 2397); the application's own rules let nothing fetch it. */
function blobOf(address: string): Blob | null {
  const match = /^data:(image\/[\w.+-]+);base64,([A-Za-z0-9+/=\s]+)$/.exec(address)
  if (!match) return null
  const bytes = Uint8Array.from(atob(match[2]!), (letter) => letter.charCodeAt(0))
  return new Blob([bytes], { type: match[1]! })
}
