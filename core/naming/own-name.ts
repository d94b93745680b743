import { treeOf } from '#core/plan'
import type { Page, Scheme } from '#core/site'
import { clashKey, isReservedName, nameLabel } from './label-name'
import { numberedName } from './name-space'
import { isOneFolder, type Nameable, namesOf, takenNames } from './names'

/** Why a name cannot be used, and one that can. */
export interface NameRefusal {
  readonly reason: string
  readonly proposal: string
}

/**
 * Checks a name an author wants for one page: null when it can be used.
 * @param name without folder and extension
 */
export function checkOwnName(name: string, scheme: Scheme, language: string): NameRefusal | null {
  const proposal = nameLabel(
    name.replace(/\.html?$/i, ''),
    { ...scheme, leaveOut: [], shortForms: [] },
    language,
  ).name
  const refuse = (reason: string) => ({ reason, proposal })
  if (name.trim() === '') return refuse('A name needs at least one letter or digit.')
  if (/\.html?$/i.test(name)) return refuse(`The ending ${scheme.extension} is added by the scheme.`)
  if (/[/\\]/.test(name)) return refuse('A name cannot hold a slash; folders come from the scheme.')
  if (/\s/u.test(name)) return refuse('A space in a file name becomes %20 in its address.')

  if (/[\u0000-\u001f\u007f-\u009f<>:"|?*#%&+;={}[\]^`'~@!$(),\ufeff]/u.test(name))
    return refuse(
      'Some of these signs have a meaning of their own in addresses or are refused by some systems.',
    )
  if (/\p{Cf}|\p{Default_Ignorable_Code_Point}|\p{Co}|\p{Cn}/u.test(name))
    return refuse(
      'It holds signs that nobody sees, so that two names look alike or read the other way round.',
    )
  if (name.startsWith('.')) return refuse('Servers hide files whose name starts with a dot.')
  if (name.startsWith('-'))
    return refuse('A name that starts with a hyphen is taken for an option by many programs.')
  if (name.endsWith('.')) return refuse('Some systems drop a dot at the end of a name.')
  if (isReservedName(name)) return refuse(`Some systems keep the name “${name}” for themselves.`)
  if (name !== name.normalize('NFC')) return refuse('Its letters are in a Unicode form that hosts mix up.')
  if (name.length > 100) return refuse('It is longer than 100 characters.')
  if (name === scheme.homeName) return refuse('That name is kept for the home page of a folder.')
  return null
}

/**
 * Checks a name an author wants for a page among the others: as `checkOwnName`, and that no other page
 * would have to give way to it.
 */
export function checkOwnNameOf(site: Nameable, pageId: string, name: string): NameRefusal | null {
  const refusal = checkOwnName(name, site.scheme, site.language)
  if (refusal) return refusal
  const holder = holderOf(site, pageId, name)
  if (holder === null) return null
  let proposal = name
  for (let number = 2; holderOf(site, pageId, proposal) !== null; number++)
    proposal = numberedName(name, number, site.scheme)
  return { reason: `${name} is the name of ${holder} already.`, proposal }
}

/** What has the name where the page stands, in words; null when it is free. */
function holderOf(site: Nameable, pageId: string, name: string): string | null {
  const tree = treeOf(site)
  const page = tree.byId.get(pageId)
  const key = clashKey(name)
  if (!page || tree.placeOf.get(pageId)?.trial) return null
  const folder = (one: Page) => (one.parentId === site.homeId ? null : one.parentId)
  const together = isOneFolder(site.scheme)
  const names = namesOf(site).pages
  const holder = tree.places.find(
    ({ page: other, trial }) =>
      other.id !== pageId &&
      !trial &&
      (together || folder(other) === folder(page)) &&
      clashKey(names.get(other.id)!.stem) === key,
  )
  if (holder) return `“${holder.page.label}”`
  const isTop = folder(page) === null
  return takenNames(site.scheme, isTop).some((taken) => clashKey(taken) === key)
    ? 'a folder of the scheme'
    : null
}
