import { escapeAttribute, escapeText } from '#core/markup'
import { datesOf } from '#core/naming'
import { languagesOf, translationsOf, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import { feedAddress, pageAddress, pageTitle } from '#core/template'

/** Pages that a feed tells of: readers ask for it every hour, and keep what they have seen. */
export const mostInFeed = 20

/** UTF-16 code units of what all its pages say. One that would go beyond has what it says of itself alone. */
const mostLetters = 500_000

/** Letters that no XML document can have, not even by their numbers (XML 1.0 §2.2); half of a pair is none. */
const noLetters = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|\p{Surrogate}/gu
const asText = (text: string): string => escapeText(text.replace(noLetters, ''))
const asValue = (text: string): string => escapeAttribute(text.replace(noLetters, ''))

/** The first moment of a day, a month or a year (RFC 3339): nobody says at what time. */
const momentOf = (date: string): string => `${date}${'-01-01'.slice(date.length - 4)}T00:00:00Z`

/** What an entry is known by wherever its page moves (RFC 4287 §4.2.6). */
const idOf = (page: Page, address: string): string =>
  /^[\da-f]{8}(?:-[\da-f]{4}){3}-[\da-f]{12}$/i.test(page.id) ? `urn:uuid:${page.id.toLowerCase()}` : address

/** The pages that a feed tells of: the newest of its language that carry a date, but those that menus leave out. */
export function pagesInFeed(site: Site, language: string): Page[] {
  const languages = languagesOf(site)
  return datesOf(site)
    .newest.filter(
      (page) => page.inMenus && languages.of(page) === language && pageAddress(site, page) !== '',
    )
    .slice(0, mostInFeed)
}

/**
 * A feed (Atom, RFC 4287). Each page in it has all that it says, with references that are understood from where it stands
 * (`xml:base`).
 * @param textOf the HTML of a page as it stands in it; '' where there is none
 */
export function feedText(site: Site, language: string, textOf: (page: Page) => string): string {
  const dates = datesOf(site)
  const home = treeOf(site).byId.get(site.homeId)!
  const homeAddress = pageAddress(site, translationsOf(site).inLanguage(home, language) ?? home)
  const own = feedAddress(site, language)
  const pages = pagesInFeed(site, language)
  const updated = pages.map((page) => dates.of(page)!.date)[0] ?? '1970'
  let letters = 0
  const entries = pages.map((page) => {
    const address = pageAddress(site, page)
    const text = textOf(page).trim()
    const isWhole = text !== '' && letters + text.length <= mostLetters
    if (isWhole) letters += text.length
    return [
      '  <entry>',
      `    <id>${asText(idOf(page, address))}</id>`,
      `    <title>${asText(pageTitle(page))}</title>`,
      `    <updated>${momentOf(dates.of(page)!.date)}</updated>`,
      `    <link href="${asValue(address)}"/>`,
      ...(page.description ? [`    <summary>${asText(page.description)}</summary>`] : []),
      ...(isWhole
        ? [`    <content type="html" xml:base="${asValue(address)}">${asText(text)}</content>`]
        : []),
      '  </entry>',
    ].join('\n')
  })
  return `${[
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<feed xmlns="http://www.w3.org/2005/Atom" xml:lang="${asValue(language)}">`,
    `  <id>${asText(own)}</id>`,
    `  <title>${asText(site.name)}</title>`,
    `  <updated>${momentOf(updated)}</updated>`,
    `  <link rel="self" type="application/atom+xml" href="${asValue(own)}"/>`,
    `  <link href="${asValue(homeAddress)}"/>`,
    `  <author><name>${asText(site.name)}</name></author>`,
    ...entries,
    '</feed>',
  ].join('\n')}\n`
}
