import { resolveReference } from '#core/links'
import type { SiteFile } from '#core/site'
import { type FindingContext, inFile, type Rule } from '../../rule'

/** Style sheets that one asks for by `@import`, with the places. */
function importsOf(file: SiteFile, { styleFactsOf, names, homeFile }: FindingContext) {
  return styleFactsOf(file.hash).references.flatMap((reference) => {
    if (reference.holder !== '@import') return []
    const target = resolveReference(reference.href, names.files.get(file.id)!, names, homeFile)
    return target.kind === 'file' ? [{ reference, id: target.id }] : []
  })
}

/** A style sheet that asks for another, which a browser only then begins to fetch (CSS Cascade 5 §2). */
export const importChain: Rule = {
  id: 'import-chain',
  grade: 'detail',
  title: 'Style sheets that fetch one another',
  why: 'A browser learns of the second only when it has read the first, and shows nothing until then.',
  reads: 'site',
  find(context) {
    const byId = new Map(context.site.files.map((file) => [file.id, file]))
    return context.site.files.flatMap((file) => {
      if (file.kind !== 'style') return []
      return importsOf(file, context).flatMap(({ reference, id }) => {
        const chain = [file.label]
        const seen = new Set([file.id])
        let at: SiteFile | undefined = byId.get(id)
        while (at) {
          chain.push(at.label)
          if (seen.has(at.id)) {
            const what = `${chain.join(' asks for ')}: they go round in a circle.`
            return [{ mark: reference.href, place: inFile(file, reference), what }]
          }
          seen.add(at.id)
          at = byId.get(importsOf(at, context)[0]?.id ?? '')
        }
        const what = `${chain.join(' asks for ')}. Let the template ask for ${chain.length > 2 ? 'all of them' : 'both'}.`
        return [{ mark: reference.href, place: inFile(file, reference), what }]
      })
    })
  },
}
