import { showsPicture } from '#core/markup'
import type { Rule } from '../../rule'

/** A picture that browsers fetch from another site. Its text's editor takes it into this one. */
export const pictureElsewhere: Rule = {
  id: 'picture-elsewhere',
  grade: 'detail',
  title: 'Pictures that stand on other sites',
  why: 'They are gone when the other site is, and it learns of each visitor of yours. The editor of the page can take them in.',
  reads: 'references',
  find(references, { at }, { site, publicAddresses }) {
    const own = [site.publicAddress, ...publicAddresses].filter((address) => address !== '')
    return references.flatMap((reference) => {
      const { href, holder } = reference
      if (!showsPicture(holder) || !/^https?:\/\//i.test(href) || !URL.canParse(href)) return []
      if (own.some((address) => href.startsWith(address))) return []
      return [{ mark: href, place: at(reference), what: `A picture is fetched from ${new URL(href).host}.` }]
    })
  },
}
