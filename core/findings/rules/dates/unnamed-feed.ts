import { namesOwnFeed, sayFeed } from '#core/template'
import { type Found, inTemplate, type Rule } from '../../rule'
import { outermost } from '../skeleton/of-skeleton'

/** Templates whose pages do not name the feed of the site (HTML §4.6.7.1). */
export const unnamedFeed: Rule = {
  id: 'unnamed-feed',
  grade: 'detail',
  title: 'A feed that no page names',
  why: 'Feed readers look into the head of a page for its feed. One that is named nowhere is found by nobody.',
  reads: 'site',
  find({ site, pages, templates, names, sourceOf }) {
    if (!templates || !names.made.some(({ is }) => is.kind === 'feed')) return []
    const heads = new Set(pages.map((page) => outermost(site, templates.idOf(page))))
    return [...heads].flatMap((template): Found[] => {
      const edits = template ? sayFeed(sourceOf(template)) : []
      if (!template || edits.length === 0) return []
      const way = { words: 'Name the feed', edits, was: template.source }
      const isOther = namesOwnFeed(sourceOf(template))
      const they = isOther ? 'name another' : 'do not say where it is'
      return [
        {
          place: inTemplate(template),
          what: `The site makes a feed of what is new. Pages made with this template ${they}.`,
          mends: [isOther ? { ...way, isOther } : way],
        },
      ]
    })
  },
}
