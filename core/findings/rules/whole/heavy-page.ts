import { lines, secondsOn, type WeightKind, weighPages } from '#core/weighing'
import { textsOfPage } from '#core/site'
import { generatedWeight } from '#core/template'
import { inPage, type Rule } from '../../rule'

const spoken: Readonly<Record<WeightKind, string>> = {
  source: 'its source',
  styles: 'style sheets',
  scripts: 'scripts',
  pictures: 'pictures',
  fonts: 'typefaces',
  other: 'other files',
}
const inMegabytes = (bytes: number) => `${(bytes / 1_000_000).toFixed(1)} MB`

/** A page that weighs more, with all that it needs, than its author wants a page to weigh. */
export const heavyPage: Rule = {
  id: 'heavy-page',
  grade: 'hinders',
  title: 'Pages that are heavy',
  why: 'On a slow line visitors wait, and most of them do not wait long.',
  reads: 'site',
  find(context) {
    const { templates, factsOf, fileFactsOf, pages, site } = context
    if (!templates) return []
    const { mostPageBytes } = site.checking
    const weights = weighPages(context, pages, {
      templates,
      factsOf,
      fileFactsOf,
      plan: context.planToken,
      // Not made for this: its texts, its template and its menus are what it is made of.
      sourceBytesOf: (page) =>
        (templates.composed(templates.idOf(page))?.text.length ?? 0) +
        generatedWeight(context, templates.of(page), page) +
        textsOfPage(page).reduce((sum, { hash }) => sum + factsOf(hash).size, 0),
    })
    return weights.flatMap((weight, index) => {
      if (weight.total <= mostPageBytes) return []
      const [heaviest] = Object.entries(weight.bytes).sort((a, b) => b[1] - a[1]) as [[WeightKind, number]]
      const what = `It weighs ${inMegabytes(weight.total)}, of which ${spoken[heaviest[0]]} are ${inMegabytes(heaviest[1])}: about ${Math.round(secondsOn(lines.slow, weight))} seconds on ${lines.slow.name}.`
      return [{ place: inPage(pages[index]!), what }]
    })
  },
}
