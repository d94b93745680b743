import { useState } from 'react'
import { encodePath } from '#core/markup'
import { namesOf } from '#core/naming'
import { useSite } from '../document/site-context'
import { useFiles } from '../files/files-context'
import { useStableActions } from '../parts/use-stable-actions'
import type { Pasting } from '../parts/editor/pasting'

/** Markdown that was pasted as it is, and may become HTML. */
export interface PastedMarkdown {
  readonly from: number
  readonly text: string
}

/** What is pasted into a page: clean HTML with its pictures, and Markdown that is asked about. */
export function usePasting() {
  const { store } = useSite()
  const { uploads } = useFiles()
  const [markdown, setMarkdown] = useState<PastedMarkdown | null>(null)
  const { html, text } = useStableActions({
    async html(written: string, into: string): Promise<string> {
      const { cleanHtml } = await import('./texts')
      // What is copied from the preview leads to the site, not to where it is previewed.
      return withPictures(cleanHtml(written.replaceAll(previewed, '/'), into))
    },
    text(pasted: PastedMarkdown) {
      setMarkdown(null)
      void import('./texts').then(({ looksLikeMarkdown }) => {
        if (looksLikeMarkdown(pasted.text)) setMarkdown(pasted)
      })
    },
  })
  /** Pictures that came within the HTML become files of the site. */
  async function withPictures(clean: string): Promise<string> {
    const inside = [...new Set([...clean.matchAll(/src="(data:image\/[^"]+)"/g)].map((match) => match[1]!))]
    let result = clean
    for (const [index, address] of inside.entries()) {
      const file = blobOf(address)
      const id =
        file && (await uploads.send(file, `Picture ${index + 1}.${file.type.slice(6).replace(/\W.*/, '')}`))
      const path = id ? namesOf(store.get().site).files.get(id) : undefined
      result = result.replaceAll(
        `src="${address}"`,
        path === undefined ? 'src=""' : `src="/${encodePath(path)}"`,
      )
    }
    return result
  }
  const [pasting] = useState<Pasting>(() => ({ html, text }))
  return { pasting, markdown, forget: () => setMarkdown(null) }
}

const previewed = /\bhttps?:\/\/[^\s"'<>/]+\/preview\/[0-9a-f-]{36}\.[^\s"'<>/]+\//g

/** The bytes that a data address holds (RFC 2397); the application's own rules let nothing fetch it. */
function blobOf(address: string): Blob | null {
  const match = /^data:(image\/[\w.+-]+);base64,([A-Za-z0-9+/=\s]+)$/.exec(address)
  if (!match) return null
  const bytes = Uint8Array.from(atob(match[2]!), (letter) => letter.charCodeAt(0))
  return new Blob([bytes], { type: match[1]! })
}
