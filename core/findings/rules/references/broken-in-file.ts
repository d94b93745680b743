import { isStanding, referenceLike, targetOf } from '#core/links'
import { type FileFacts, fileSyntaxOf, writeReference } from '#core/markup'
import { nearestPath } from '#core/links'
import { type FindingContext, type Found, inFile, type Rule } from '../../rule'

/** What a file asks for that is not there. */
function brokenIn(
  file: FindingContext['site']['files'][number],
  { references }: FileFacts,
  context: FindingContext,
): Found[] {
  const { names, homeFile } = context
  const path = names.files.get(file.id)!
  return references.flatMap((reference) => {
    const { href, start, end } = reference
    const target = targetOf(reference, path, names, homeFile)
    if (target.kind !== 'missing' || !isStanding(reference, target)) return []
    const near = nearestPath(names, target.path)
    const next = near && referenceLike(href, path, near, names)
    const text = next && writeReference(reference, next + target.suffix)
    return [
      {
        mark: href,
        place: inFile(file, reference),
        what: `${href} is no file of this site.`,
        mends: text ? [{ words: `Lead it to ${near}`, edits: [{ start, end, text }], was: file.hash }] : [],
      },
    ]
  })
}

const isStyle = ({ label, sizeBytes }: FindingContext['site']['files'][number]) =>
  fileSyntaxOf(label, sizeBytes) === 'css'

/** A picture, a font or another style sheet that a style sheet asks for and that is not there. */
export const brokenStyleReference: Rule = {
  id: 'broken-style-reference',
  grade: 'hinders',
  title: 'Style sheets that ask for what is not there',
  why: 'Every page asks the server for it in vain, and the picture or the typeface is missing.',
  reads: 'site',
  find: (context) =>
    context.site.files.filter(isStyle).flatMap((file) => brokenIn(file, context.fileFactsOf(file), context)),
}

/** A module that a script imports, an icon of a manifest, a page of a sitemap, that is not there. */
export const brokenFileReference: Rule = {
  id: 'broken-file-reference',
  grade: 'breaks',
  title: 'Scripts and other files that ask for what is not there',
  why: 'A script whose module is missing does not run at all, an icon or a picture stays empty, and a sitemap leads to “not found”.',
  reads: 'site',
  find: (context) =>
    context.site.files
      .filter((file) => !isStyle(file))
      .flatMap((file) => brokenIn(file, context.fileFactsOf(file), context)),
}
