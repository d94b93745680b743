import { treeOf } from '#core/plan'
import type { Page, Scheme } from '#core/site'
import { clashKey, isReservedName, nameLabel } from './label-name'
import { numberedName } from './name-space'
import { type Nameable, namesOf, takenNames } from './names'
import { endingOf, isOwnPath, readOwnPath } from './own-path'

/** Why a name cannot be used, and one that can. */
export interface NameRefusal {
  readonly reason: string
  readonly proposal: string
}

/** Letters of a path of a page's own. */
const longestPath = 300

/**
 * Checks a name an author wants for one page: null when it can be used.
 * @param name without folder and extension; or a path from the top, which begins with a slash
 */
export function checkOwnName(name: string, scheme: Scheme, language: string): NameRefusal | null {
  return isOwnPath(name) ? checkOwnPath(name, scheme, language) : checkName(name, scheme, language)
}

/** Checks each step of a path; it proposes the path with each that cannot be used put right. */
function checkOwnPath(path: string, scheme: Scheme, language: string): NameRefusal | null {
  const { extension, isHome } = readOwnPath(path)
  const steps = path
    .slice(1, path.length - (extension?.length ?? 0))
    .split('/')
    .filter(
      (step, index, all) => step !== '' || (index < all.length - 1 && all.length > 1) || extension !== null,
    )
  // `/old/index.html` is no home page where that is called `index.htm`.
  const isOther = extension !== null && endingOf({ extension }, scheme) !== scheme.extension
  const checks = steps.map((step, index) =>
    isOther && index === steps.length - 1
      ? checkStep(step, scheme, language)
      : checkName(step, scheme, language),
  )
  const refused = checks.find((one) => one !== null)
  const end = isHome ? '/' : (extension ?? '')
  const proposal = `/${steps.map((step, index) => checks[index]?.proposal ?? step).join('/')}${end}`
  if (steps.length === 0)
    return { reason: 'That is where the home page stands.', proposal: `/${scheme.homeName}-2` }
  if (refused) return { reason: refused.reason, proposal }
  return path.length > longestPath
    ? { reason: `It is longer than ${longestPath} characters.`, proposal: `/${steps.at(-1)!}` }
    : null
}

/** Checks one step of a path, a file's or a folder's. */
function checkStep(name: string, scheme: Scheme, language: string): NameRefusal | null {
  const proposal = nameLabel(
    name.replace(/\.html?$/i, ''),
    { ...scheme, leaveOut: [], shortForms: [] },
    language,
  ).name
  const refuse = (reason: string) => ({ reason, proposal })
  if (name.trim() === '') return refuse('A name needs at least one letter or digit.')
  if (/\.html?$/i.test(name))
    return refuse(
      `The ending ${scheme.extension} is added by the scheme; a path that begins with a slash says its own.`,
    )
  if (/[/\\]/.test(name))
    return refuse('Folders come from the scheme; a path of its own begins with a slash.')
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
  return name.length > 100 ? refuse('It is longer than 100 characters.') : null
}

/** Checks a step that a page or a folder has its name by: it is not that of home pages, either. */
function checkName(name: string, scheme: Scheme, language: string): NameRefusal | null {
  const refusal = checkStep(name, scheme, language)
  if (refusal || name !== scheme.homeName) return refusal
  const reason = 'That name is kept for the home page of a folder.'
  return { reason, proposal: nameLabel(name, { ...scheme, leaveOut: [], shortForms: [] }, language).name }
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
  const ending = (isOwnPath(name) && readOwnPath(name).extension) || ''
  const bare = name.slice(0, name.length - ending.length)
  let proposal = name
  for (let number = 2; holderOf(site, pageId, proposal) !== null; number++)
    proposal = numberedName(bare, number, site.scheme) + ending
  return { reason: `${name} is the name of ${holder} already.`, proposal }
}

/** What has the name where the page stands, in words; null when it is free. */
function holderOf(site: Nameable, pageId: string, name: string): string | null {
  const tree = treeOf(site)
  const page = tree.byId.get(pageId)
  if (!page || tree.placeOf.get(pageId)?.trial) return null
  const names = namesOf(site).pages
  const own = isOwnPath(name) ? readOwnPath(name) : null
  const container = clashKey(own ? own.container : containerOf(site, page))
  const key = clashKey(own ? own.stem : name)
  const holder = tree.places.find(({ page: other, trial }) => {
    const named = names.get(other.id)!
    if (other.id === pageId || trial || clashKey(named.stem) !== key) return false
    // `/about` and `/about/` are two files, as are `/about.htm` and `/about.html`.
    const its = isOwnPath(other.ownName) ? readOwnPath(other.ownName) : null
    if (own && its && its.isHome !== own.isHome) return false
    const ending = endingOf(own ?? { extension: null }, site.scheme)
    if (ending !== endingOf(its ?? { extension: null }, site.scheme)) return false
    return clashKey(named.container) === container
  })
  if (holder) return `“${holder.page.label}”`
  if (own) return null
  return takenNames(site.scheme, container === '').some((taken) => clashKey(taken) === key)
    ? 'a folder of the scheme'
    : null
}

/** The folder that a page has its name in by the scheme, whatever path of its own it has. */
const containerOf = (site: Nameable, page: Page): string =>
  namesOf(
    isOwnPath(page.ownName)
      ? { ...site, pages: site.pages.map((one) => (one.id === page.id ? { ...one, ownName: null } : one)) }
      : site,
  ).pages.get(page.id)!.container
