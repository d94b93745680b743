import { canBe, directionOf, languageName } from '#core/language'
import { attributePlace, attributeValueRange } from '#core/markup'
import { type Page, type Template } from '#core/site'
import { givesOutWhole } from '#core/template'
import { type FindingContext, type Found, inPage, inTemplate, type Rule } from '../../rule'
import { copiedFrom } from '../languages/untranslated'
import { outermost, skeletonOf } from './of-skeleton'

/** A page that is long enough to tell its language. */
interface ToldPage {
  readonly page: Page
  /** What its text is in. */
  readonly told: string
  /** What it says that it is in. */
  readonly said: string
}

/** Pages whose template says one language of them all, and those of which the site and its sections say it. */
interface Sayings {
  readonly byTemplate: ReadonlyMap<Template, readonly ToldPage[]>
  readonly bySite: readonly ToldPage[]
}

/** Pages in another language than the one that they say (HTML §3.2.6.2, WCAG 2.2 §3.1.1, §3.1.2). */
export const otherLanguage: Rule = {
  id: 'other-language',
  grade: 'hinders',
  title: 'Texts in another language than they say',
  why: 'A screen reader reads them with the sounds of another language, browsers offer to translate them, and words are divided wrongly.',
  reads: 'site',
  find(context) {
    const { byTemplate, bySite } = sayingsOf(context)
    return [
      ...[...byTemplate].flatMap(([template, those]) => ofTemplate(context, template, those)),
      ...ofSite(context, bySite),
    ]
  },
}

function sayingsOf({
  pages,
  factsOf,
  sourceOf,
  templates,
  site,
  languages,
  translations,
}: FindingContext): Sayings {
  const byTemplate = new Map<Template, ToldPage[]>()
  const bySite: ToldPage[] = []
  const heads = new Map<string, ReturnType<typeof headOf>>()
  const headOf = (templateId: string) => {
    const template = outermost(site, templateId)
    return template && { template, written: skeletonOf(sourceOf(template)).language?.trim() ?? '' }
  }
  for (const page of templates ? pages : []) {
    const told = factsOf(page.content).language
    // What gives out pages as they are says nothing by itself.
    if (told === undefined || givesOutWhole(templates!.of(page))) continue
    // One that is still to be translated is told as such.
    if (copiedFrom({ translations, factsOf }, page)) continue
    const id = templates!.idOf(page)
    if (!heads.has(id)) heads.set(id, headOf(id))
    const { template, written } = heads.get(id) ?? { written: '' }
    if (written === '{language}') bySite.push({ page, told, said: languages.of(page) })
    else if (template && written !== '' && !written.includes('{')) {
      const those = byTemplate.get(template)
      if (those) those.push({ page, told, said: written })
      else byTemplate.set(template, [{ page, told, said: written }])
    }
  }
  return { byTemplate, bySite }
}

const isOther = ({ told, said }: ToldPage) => !canBe(told, said)
const inWords = (said: string) => `${languageName(said)} (${said})`

/** The language that more than half of some pages are in, where they say another. */
function mostOf(those: readonly ToldPage[]): string | undefined {
  const counts = new Map<string, number>()
  for (const one of those) if (isOther(one)) counts.set(one.told, (counts.get(one.told) ?? 0) + 1)
  return [...counts].find(([, count]) => count * 2 > those.length)?.[0]
}

/** Of pages whose template says it: most can have it say another, one beside them says its own. */
function ofTemplate(context: FindingContext, template: Template, those: readonly ToldPage[]): Found[] {
  const most = mostOf(those)
  return [
    ...(most === undefined ? [] : [ofMost(context, template, most, those)]),
    ...those.filter((one) => isOther(one) && one.told !== most).map((one) => inItsText(context, one)),
  ]
}

function ofMost(
  { sourceOf }: FindingContext,
  template: Template,
  told: string,
  those: readonly ToldPage[],
): Found {
  const source = sourceOf(template)
  const { html } = skeletonOf(source)
  const at = html && attributePlace(html, 'lang')
  const range = at && attributeValueRange(source, at)
  const some = those.filter((one) => one.told === told)
  return {
    mark: told,
    place: inTemplate(template),
    what: `${textsOf(some.length)} in ${languageName(told)}, and this template says that pages are in ${inWords(some[0]!.said)}.`,
    mends: range
      ? [
          {
            words: `Write lang="${told}"`,
            edits: [{ ...range, text: range.quoted ? told : `"${told}"` }],
            was: template.source,
          },
        ]
      : [],
  }
}

const textsOf = (count: number) => (count === 1 ? 'The text of a page is' : `The texts of ${count} pages are`)

/**
 * Of pages of which the site says it: what most are in is what the site ought to say, a section in another language
 * says so for all its pages, and so does a page by itself.
 */
function ofSite(context: FindingContext, those: readonly ToldPage[]): Found[] {
  const { site, templates } = context
  const following = those.filter(({ said }) => said === site.language)
  const most = mostOf(following)
  const found: Found[] = []
  if (most !== undefined) {
    const some = following.filter(({ told }) => told === most)
    found.push({
      mark: most,
      place: inTemplate(outermost(site, templates!.idOf(some[0]!.page))!),
      what: `${textsOf(some.length)} in ${languageName(most)}, and the site says that pages are in ${inWords(site.language)}.`,
      mends: [
        {
          words: `The site is in ${languageName(most)}`,
          change: { kind: 'setSetting', field: 'language', value: most, was: site.language },
        },
      ],
    })
  }
  const rest = those.filter((one) => one.told !== most || one.said !== site.language)
  return [...found, ...ofBranches(context, new Map(rest.map((one) => [one.page, one])))]
}

/** What the texts of a page and of those below it that say its language tell together. */
interface Branch {
  /** The one other language that they are in; null where they are in several, or some in the one that they say. */
  told: string | null | undefined
  /** Pages that tell it, and pages that have a text at all. */
  tells: number
  written: number
}

/** Pages in another language, and sections whose pages are: each told once, as high in the plan as it holds. */
function ofBranches(context: FindingContext, byPage: ReadonlyMap<Page, ToldPage>): Found[] {
  const { pages, factsOf } = context
  const branches = new Map<string, Branch>()
  const branchOf = (id: string): Branch => {
    let branch = branches.get(id)
    if (!branch) branches.set(id, (branch = { told: undefined, tells: 0, written: 0 }))
    return branch
  }
  // Those below come first, so that each is whole when the one above it takes it in.
  for (const page of [...pages].reverse()) {
    const branch = branchOf(page.id)
    const one = byPage.get(page)
    if (one) take(branch, isOther(one) ? one.told : null, 1)
    if (factsOf(page.content).size > 0) branch.written += 1
    if (page.parentId === null || page.language !== null) continue
    const above = branchOf(page.parentId)
    take(above, branch.told, branch.tells)
    above.written += branch.written
  }
  const spoken = new Set<string>()
  return pages.flatMap((page) => {
    const one = byPage.get(page)
    const { told, tells, written } = branchOf(page.id)
    if (page.parentId !== null && page.language === null && spoken.has(page.parentId)) spoken.add(page.id)
    if (spoken.has(page.id)) return []
    const isItself = one !== undefined && isOther(one)
    // One page says nothing of those beside it, and few nothing of many.
    if (told && (isItself || tells > 1) && tells * 2 >= written) {
      spoken.add(page.id)
      return [ofBranch(context, page, told, tells)]
    }
    return isItself ? [inItsText(context, one)] : []
  })
}

function take(branch: Branch, told: Branch['told'], tells: number): void {
  if (told === undefined) return
  branch.told = branch.told === undefined || branch.told === told ? told : null
  branch.tells += tells
}

function ofBranch({ tree, languages }: FindingContext, top: Page, told: string, tells: number): Found {
  const language = languageName(told)
  const said = inWords(languages.of(top))
  return {
    mark: told,
    place: inPage(top),
    what:
      tells === 1
        ? `Its text is in ${language}, and the page says that it is in ${said}.`
        : `From here on the texts of ${tells} pages are in ${language}, and they say that they are in ${said}.`,
    mends: [
      {
        words: `This ${tree.childrenOf(top.id).length > 0 ? 'section' : 'page'} is in ${language}`,
        change: { kind: 'setPageText', pageId: top.id, field: 'language', value: told, was: top.language },
      },
    ],
  }
}

/** A page that can say it of its text alone. */
function inItsText({ factsOf }: FindingContext, { page, told, said }: ToldPage): Found {
  const direction = directionOf(told) === directionOf(said) ? '' : ` dir="${directionOf(told)}"`
  const end = factsOf(page.content).size
  return {
    mark: told,
    place: inPage(page),
    what: `Its text is in ${languageName(told)}, and the page says that it is in ${inWords(said)}.`,
    mends: [
      {
        words: `Say that it is in ${languageName(told)}`,
        edits: [
          { start: 0, end: 0, text: `<div lang="${told}"${direction}>\n` },
          { start: end, end, text: '\n</div>' },
        ],
        was: page.content,
      },
    ],
  }
}
