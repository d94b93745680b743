import { canBe, directionOf, languageName } from '#core/language'
import { attributePlace, attributeValueRange } from '#core/markup'
import { type Page, type Site, type Template } from '#core/site'
import { givesOutWhole } from '#core/template'
import { type FindingContext, type Found, inPage, inTemplate, type Rule } from '../../rule'
import { skeletonOf } from './of-skeleton'

/** What a template says of the language of its pages; null where it says none. */
function saidBy({ site, sourceOf }: FindingContext, template: Template): string | null {
  const { language } = skeletonOf(sourceOf(template))
  return language === null || language.trim() === '' ? null : language.replaceAll('{language}', site.language)
}

/** The template that has the head of a page: the first of those that its own is based on. */
function outermost(site: Site, page: Page): Template | undefined {
  const byId = new Map(site.templates.map((one) => [one.id, one]))
  let template = byId.get(page.templateId ?? site.templateId)
  for (let steps = 0; template?.basedOn && steps < byId.size; steps++) template = byId.get(template.basedOn)
  return template
}

interface ToldPage {
  readonly page: Page
  readonly told: string
}

/** Pages in another language than the one that they say (HTML §3.2.6.2, WCAG 2.2 §3.1.1, §3.1.2). */
export const otherLanguage: Rule = {
  id: 'other-language',
  grade: 'hinders',
  title: 'Texts in another language than they say',
  why: 'A screen reader reads them with the sounds of another language, browsers offer to translate them, and words are divided wrongly.',
  reads: 'site',
  find(context) {
    const { site, pages, factsOf, templates } = context
    if (!templates) return []
    const byTemplate = new Map<Template, ToldPage[]>()
    for (const page of pages) {
      const told = factsOf(page.content).language
      const template = told === undefined ? undefined : outermost(site, page)
      // What gives out pages as they are says nothing by itself.
      if (told === undefined || !template || givesOutWhole(templates.of(page))) continue
      const those = byTemplate.get(template)
      if (those) those.push({ page, told })
      else byTemplate.set(template, [{ page, told }])
    }
    return [...byTemplate].flatMap(([template, those]) => ofTemplate(context, template, those))
  },
}

function ofTemplate(context: FindingContext, template: Template, those: readonly ToldPage[]): Found[] {
  const said = saidBy(context, template)
  if (said === null) return []
  const others = those.filter(({ told }) => !canBe(told, said))
  const counts = new Map<string, ToldPage[]>()
  for (const one of others) {
    const same = counts.get(one.told)
    if (same) same.push(one)
    else counts.set(one.told, [one])
  }
  // What most of its pages are in is what the template ought to say; a page beside them says its own.
  const most = [...counts].find(([, some]) => some.length * 2 > those.length)
  const saysSo = `${languageName(said)} (${said})`
  return [
    ...(most ? [ofMost(context, template, most, saysSo)] : []),
    ...others
      .filter(({ told }) => told !== most?.[0])
      .map(({ page, told }): Found => {
        const text = context.factsOf(page.content)
        const attributes = `lang="${told}"${directionOf(told) === directionOf(said) ? '' : ` dir="${directionOf(told)}"`}`
        return {
          mark: told,
          place: inPage(page),
          what: `Its text is in ${languageName(told)}, and the page says that it is in ${saysSo}.`,
          mends: [
            {
              words: `Say that it is in ${languageName(told)}`,
              edits: [
                { start: 0, end: 0, text: `<div ${attributes}>\n` },
                { start: text.size, end: text.size, text: '\n</div>' },
              ],
              was: page.content,
            },
          ],
        }
      }),
  ]
}

function ofMost(
  { site, sourceOf }: FindingContext,
  template: Template,
  [told, some]: readonly [string, readonly ToldPage[]],
  saysSo: string,
): Found {
  const { language, html } = skeletonOf(sourceOf(template))
  const count = some.length === 1 ? 'The text of a page is' : `The texts of ${some.length} pages are`
  const what = `${count} in ${languageName(told)}, and this template says that pages are in ${saysSo}.`
  const isOfSite = language!.includes('{')
  const at = html && attributePlace(html, 'lang')
  const range = at && attributeValueRange(sourceOf(template), at)
  return {
    mark: told,
    place: inTemplate(template),
    what,
    mends: isOfSite
      ? [
          {
            words: `The site is in ${languageName(told)}`,
            change: { kind: 'setSetting', field: 'language', value: told, was: site.language },
          },
        ]
      : range
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
