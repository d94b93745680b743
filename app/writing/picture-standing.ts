import { resolveReference } from '#core/links'
import { leadAt } from '#core/markup'
import { namesOf } from '#core/naming'
import { pictureAt } from '#core/pictures'
import type { Site } from '#core/site'
import { homeFileOf } from '#core/template'
import type { EditorHandle } from '../parts/editor/editor-handle'
import { fileAsPicture } from './file-as-picture'
import type { WantedPicture } from './picture-dialog'

/** A picture of the site that stands in a text already. */
export interface StandingPicture {
  readonly picture: WantedPicture
  /** Puts other HTML in its place, as long as it stands there. */
  readonly replace: (html: string) => void
}

/** The picture whose tag the cursor is within; null where there is none, or one of another site. */
export function pictureStanding(site: Site, pageId: string, editor: EditorHandle): StandingPicture | null {
  const text = editor.text()
  const found = pictureAt(text, editor.selection().from)
  if (!found) return null
  const names = namesOf(site)
  const target = resolveReference(found.address, names.pages.get(pageId)!.path, names, homeFileOf(site))
  const file = target.kind === 'file' ? site.files.find(({ id }) => id === target.id) : undefined
  if (file?.kind !== 'image') return null
  const { start, end } = found
  return {
    picture: { ...fileAsPicture(site.id, file), found },
    replace(html) {
      // Another window may have written meanwhile.
      if (editor.text().slice(start, end) !== text.slice(start, end)) return
      editor.replace(start, end, html.replaceAll('\n', `\n${leadAt(text, start)}`))
    },
  }
}
