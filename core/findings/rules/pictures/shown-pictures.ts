import { resolveReference } from '#core/links'
import type { ReadPicture } from '#core/markup'
import type { Pixels } from '#core/pictures'
import { type Hash, type SiteFile, textsOfPage } from '#core/site'
import { type FindingContext, type FindingPlace, inSlot, inTemplate } from '../../rule'

/** A picture of the site where it is to be shown. */
export interface Placed {
  readonly picture: ReadPicture
  readonly file: SiteFile
  readonly place: FindingPlace
  /** The text it stands in. */
  readonly was: Hash
}

/** One whose own size is known. */
export interface Shown extends Placed {
  readonly pixels: Pixels
}

/** Every picture of the site that a page or a template shows and whose own size is known. */
export function* shownPictures(context: FindingContext): Generator<Shown> {
  for (const one of placedPictures(context)) {
    const pixels = context.pixelsOf(one.file.hash)
    if (pixels) yield { ...one, pixels }
  }
}

/** Every picture of the site that a page or a template asks for. */
export function* placedPictures(context: FindingContext): Generator<Placed> {
  const { site, pages, names, homeFile, factsOf } = context
  const files = new Map(site.files.map((file) => [file.id, file]))
  const seen = (picture: ReadPicture, from: string) => {
    const target = resolveReference(picture.src, from, names, homeFile)
    const file = target.kind === 'file' ? files.get(target.id) : undefined
    return file ? { picture, file } : null
  }
  for (const template of site.templates)
    for (const picture of context.compiled(template).facts.pictures) {
      const one = seen(picture, '')
      if (one) yield { ...one, place: inTemplate(template, picture), was: template.source }
    }
  for (const page of pages)
    for (const { slot, hash } of textsOfPage(page))
      for (const picture of factsOf(hash).pictures) {
        const one = seen(picture, names.pages.get(page.id)!.path)
        if (one) yield { ...one, place: inSlot(page, slot, picture), was: hash }
      }
}
