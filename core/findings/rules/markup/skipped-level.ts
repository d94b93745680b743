import { inPage, type Rule } from '../../rule'

/** Headings that go down by more than one level at a time. */
export const skippedLevel: Rule = {
  id: 'skipped-level',
  grade: 'detail',
  title: 'Headings that leave out a level',
  why: 'Who goes from heading to heading with a screen reader takes it that a part is missing.',
  reads: 'page',
  find(page, { factsOf }) {
    const { headings } = factsOf(page.content)
    for (const [index, heading] of headings.entries()) {
      // The page's own heading stands above the first one, as a rule in the template.
      const above = headings[index - 1]?.level ?? 1
      if (heading.level <= above + 1) continue
      const what = `“${heading.text.slice(0, 60)}” is a heading of level ${heading.level} right below one of level ${above}.`
      return { place: inPage(page, heading), what }
    }
    return null
  },
}
