import { type FileFacts, type HtmlFacts, type Reference, writeReference } from '#core/markup'
import { readOwnAddress } from '#core/links'
import { realPlaces, treeOf } from '#core/plan'
import { type Hash, type Site, type SiteFile, textsOfPage, type TextOf } from '#core/site'
import { compileTemplate } from '#core/template'
import { followedRules } from './index'
import { type Finding, type FindingPlace, inFile, inSlot, inTemplate, type Mend, type Told } from '../rule'

/** What came of following an address outside. */
export interface Followed {
  /** `moved`: for good, to `movedTo`; `unsure`: it does not answer programs, or may not be asked. */
  readonly outcome: 'fine' | 'moved' | 'gone' | 'silent' | 'unsure'
  /** Status code of the last answer (RFC 9110 §15); null where there was none. */
  readonly status: number | null
  readonly movedTo: string | null
}

export interface OutsideSources {
  readonly textOf: TextOf
  readonly factsOf: (hash: Hash) => HtmlFacts
  readonly fileFactsOf: (file: SiteFile) => FileFacts
}

/** A place where an address stands, and the text it stands in. */
interface Use {
  readonly place: FindingPlace
  readonly reference: Reference
  readonly was: Hash
}

/** An address as it is followed: without its fragment, which no server sees (RFC 3986 §3.5); null for any other. */
function followable(href: string): string | null {
  if (!/^(https?:)?\/\//i.test(href) || !URL.canParse(href, 'https://x.example/')) return null
  const url = new URL(href, 'https://x.example/')
  url.hash = ''
  url.username = ''
  url.password = ''
  return url.href
}

/**
 * Every address outside that the site leads to, with where it stands. What only names a server beforehand is none, nor is a
 * text of which nothing says that it is an address.
 */
export function outsideAddresses(
  site: Site,
  { textOf, factsOf, fileFactsOf }: OutsideSources,
): Map<string, Use[]> {
  const uses = new Map<string, Use[]>()
  const take = (references: readonly (Reference & Told)[], was: Hash, at: (told: Told) => FindingPlace) => {
    for (const reference of references) {
      const isOwn = reference.ifThere || readOwnAddress(reference.href, site.publicAddress)
      const address = isOwn ? null : followable(reference.href)
      if (address === null || reference.href.includes('{')) continue
      const known = uses.get(address)
      const use = { place: at(reference), reference, was }
      if (known) known.push(use)
      else uses.set(address, [use])
    }
  }
  for (const template of site.templates)
    take(compileTemplate(textOf(template.source)).references, template.source, (told) => inTemplate(template, told)) // prettier-ignore
  for (const file of site.files) take(fileFactsOf(file).references, file.hash, (told) => inFile(file, told))
  for (const { page } of realPlaces(treeOf(site)))
    for (const { slot, hash } of textsOfPage(page))
      take(factsOf(hash).references, hash, (told) => inSlot(page, slot, told))
  return uses
}

const sentences: Readonly<Record<'gone' | 'moved' | 'silent', (address: string, followed: Followed) => string>> = {
  gone: (address, { status }) => `${address} is no longer there: its server says ${status}.`,
  moved: (address, { movedTo }) => `${address} has moved to ${movedTo}.`,
  silent: (address, { status }) =>
    status === null ? `${address} does not answer.` : `${address} answers with an error: ${status}.`,
} // prettier-ignore

/** What following addresses told, at every place where they stand. */
export function findFollowed(
  site: Site,
  sources: OutsideSources,
  followed: ReadonlyMap<string, Followed>,
): Finding[] {
  if (followed.size === 0) return []
  const seen = new Map<string, number>()
  return [...outsideAddresses(site, sources)].flatMap(([address, uses]) => {
    const one = followed.get(address)
    if (!one || one.outcome === 'fine' || one.outcome === 'unsure') return []
    const { outcome } = one
    return uses.map(({ place, reference, was }): Finding => {
      const rule = `outside-${outcome}`
      const key = [rule, place.id, place.slot, address].filter(Boolean).join(' ')
      const times = (seen.get(key) ?? 0) + 1
      seen.set(key, times)
      return {
        rule,
        grade: followedRules.find(({ id }) => id === rule)!.grade,
        key: times === 1 ? key : `${key} ${times}`,
        place,
        what: sentences[outcome](address, one),
        mends: one.movedTo === null ? [] : [leadTo(one.movedTo, reference, was)],
      }
    })
  })
}

function leadTo(movedTo: string, reference: Reference, was: Hash): Mend {
  const fragment = /#.*$/.exec(reference.href)?.[0] ?? ''
  const text = writeReference(reference, movedTo.includes('#') ? movedTo : movedTo + fragment)
  return {
    words: `Lead it to ${movedTo}`,
    edits: [{ start: reference.start, end: reference.end, text }],
    was,
  }
}
