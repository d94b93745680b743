import { resolveReference } from '#core/links'
import type { HtmlFacts } from '#core/markup'
import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Hash, Page, Site, TextOf } from '#core/site'
import { compileTemplate, contextOf, homeFileOf, pageTitle, weightRefusal } from '#core/template'

/** Something that is wrong or risky: where it is, what it is, and why it matters. */
export interface Finding {
  readonly rule: string
  /** The page it is about; null for the template or the whole site. */
  readonly pageId: string | null
  readonly what: string
  readonly why: string
  /** Where in the page's content, when it is there. 1-based. */
  readonly line?: number
}

export interface FindingSources {
  readonly textOf: TextOf
  readonly factsOf: (hash: Hash) => HtmlFacts
}

type Rule = (site: Site, sources: FindingSources) => Finding[]

/** A label without letters or digits leaves nothing to make a name from. */
const namelessLabel: Rule = (site) =>
  eachPage(site, (page) =>
    namesOf(site).pages.get(page.id)?.nameless
      ? {
          rule: 'nameless-label',
          pageId: page.id,
          what: `The label “${page.label}” has no letter or digit, so its file is called ${namesOf(site).pages.get(page.id)!.path}.`,
          why: 'Visitors and search pages see the address; a name says what is inside.',
        }
      : null,
  )

/** Two pages wanted one name; the younger was told apart by rule. */
const nameClash: Rule = (site) =>
  eachPage(site, (page) => {
    const name = namesOf(site).pages.get(page.id)
    if (!name?.clash) return null
    const holder = name.clash.heldBy === null ? null : treeOf(site).byId.get(name.clash.heldBy)
    return {
      rule: 'name-clash',
      pageId: page.id,
      what: `The name “${name.clash.wanted}” belongs to ${holder ? `“${holder.label}”` : 'the site itself'}, so this page is ${name.path}.`,
      why: 'Two files of one name cannot stand in one folder, on some hosts not even where only the case differs.',
    }
  })

/** A reference that leads to nothing in this site. */
const brokenReference: Rule = (site, sources) => {
  const names = namesOf(site)
  const homeFile = homeFileOf(site)
  const check = (
    references: HtmlFacts['references'],
    from: string,
    page: Page | null,
    text: () => string,
  ): Finding[] =>
    references.flatMap((reference) => {
      const target = resolveReference(reference.href, from, names, homeFile)
      if (target.kind === 'page' && treeOf(site).placeOf.get(target.id)?.trial)
        return [
          {
            rule: 'link-to-trial',
            pageId: page?.id ?? null,
            what: `${reference.href} leads to “${treeOf(site).byId.get(target.id)!.label}”, which is a trial page.`,
            why: 'A trial page is never sent, so a visitor who follows the link meets “not found”.',
            line: lineAt(text(), reference.start),
          },
        ]
      if (target.kind !== 'missing') return []
      return [
        {
          rule: 'broken-reference',
          pageId: page?.id ?? null,
          what: `${reference.href} leads to no page or file of this site.`,
          why: 'A visitor who follows it meets “not found”.',
          line: lineAt(text(), reference.start),
        },
      ]
    })
  const inTemplates = site.templates.flatMap((template) => {
    const source = sources.textOf(template.source)
    return check(compileTemplate(source).references, '', null, () => source)
  })
  const inPages = realPlaces(treeOf(site)).flatMap(({ page }) =>
    check(sources.factsOf(page.content).references, names.pages.get(page.id)!.path, page, () =>
      sources.textOf(page.content),
    ),
  )
  return [...inTemplates, ...inPages]
}

/** Two pages with one title look the same in tabs, bookmarks and search pages. */
const repeatedTitle: Rule = (site) => {
  const first = new Map<string, Page>()
  return eachPage(site, (page) => {
    const key = pageTitle(page).toLowerCase()
    const other = first.get(key)
    if (!other) {
      first.set(key, page)
      return null
    }
    return {
      rule: 'repeated-title',
      pageId: page.id,
      what: `It has the same title as ${namesOf(site).pages.get(other.id)!.path}: “${pageTitle(page)}”.`,
      why: 'In a row of tabs or a list of results the two cannot be told apart.',
    }
  })
}

/** A content that breaks the HTML syntax; browsers guess what was meant, each page anew. */
const markupError: Rule = (site, sources) =>
  realPlaces(treeOf(site)).flatMap(({ page }) =>
    sources.factsOf(page.content).errors.map((error) => ({
      rule: 'markup-error',
      pageId: page.id,
      what: `Line ${error.line}, column ${error.column}: ${error.code.replace(/-/g, ' ')}.`,
      why: 'A browser has to guess what was meant, and what comes after may be shown wrongly.',
      line: error.line,
    })),
  )

function eachPage(site: Site, check: (page: Page) => Finding | null): Finding[] {
  return realPlaces(treeOf(site)).flatMap(({ page }) => check(page) ?? [])
}

function lineAt(text: string, offset: number): number {
  let line = 1
  for (let at = text.indexOf('\n'); at >= 0 && at < offset; at = text.indexOf('\n', at + 1)) line++
  return line
}

/** A template whose menus multiply to more than can be sent. */
const tooLarge: Rule = (site, sources) =>
  site.templates.flatMap((template) => {
    const what = weightRefusal(contextOf(site), compileTemplate(sources.textOf(template.source)))
    if (what === null) return []
    return [
      {
        rule: 'too-large',
        pageId: null,
        what,
        why: 'Visitors wait for all of it on every page, so it is not made or sent.',
      },
    ]
  })

/** A base address leads every relative reference elsewhere, and those are written for where a page stands. */
const baseAddress: Rule = (site, sources) => {
  const finding = (pageId: string | null, line: number): Finding => ({
    rule: 'base-address',
    pageId,
    what: 'A “base” element with an address stands here; it is left out of what comes out.',
    why: 'Every link is written for the place where its page stands, and a base address would lead it elsewhere.',
    line,
  })
  const inTemplates = site.templates.flatMap((template) => {
    const source = sources.textOf(template.source)
    return compileTemplate(source).bases.map(({ start }) => finding(null, lineAt(source, start)))
  })
  const inPages = realPlaces(treeOf(site)).flatMap(({ page }) =>
    sources
      .factsOf(page.content)
      .bases.map(({ start }) => finding(page.id, lineAt(sources.textOf(page.content), start))),
  )
  return [...inTemplates, ...inPages]
}

const rules: readonly Rule[] = [
  tooLarge,
  brokenReference,
  baseAddress,
  markupError,
  namelessLabel,
  nameClash,
  repeatedTitle,
]

/** Everything wrong or risky in a site, rule by rule, each in reading order. */
export function findFindings(site: Site, sources: FindingSources): Finding[] {
  return rules.flatMap((rule) => rule(site, sources))
}
