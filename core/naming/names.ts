import { type MadeFile, madeFilesOf } from './made-files'
import { languagesOf, treeOf } from '#core/plan'
import type { Page, Scheme, Site } from '#core/site'
import { asPrefix, nameFiles } from './file-names'
import { frontedName, frontOf } from './front'
import { clashKey, type NamingStep, nameLabel } from './label-name'
import { namersOf } from './label-namers'
import { type Claim, type Grant, settleNames } from './name-space'
import { isOwnPath, ownStem, placeOwnPaths } from './own-path'

/** What the scheme made of one page. */
export interface PageName {
  /** From the top of the site, without a leading slash: `birds/terns.html`. */
  readonly path: string
  /** The folder part of `path`, '' or ending in a slash. */
  readonly folder: string
  /** The name the page is known by: its own stem, or its folder's name. */
  readonly stem: string
  /** The folder that `stem` is a name in, '' or ending in a slash. */
  readonly container: string
  /** True when the label holds no letter and no digit, so a stand-in was used. */
  readonly nameless: boolean
  /** The page that already has the name this one wanted; null when there was no clash. */
  readonly clash: { readonly wanted: string; readonly heldBy: string | null } | null
}

/** Every path of a site, both ways round. */
export interface Names {
  readonly pages: ReadonlyMap<string, PageName>
  readonly files: ReadonlyMap<string, string>
  /** What stands at a path; trial pages have paths too, under `trialFolder`, for the preview only. */
  readonly byPath: ReadonlyMap<string, { readonly kind: 'page' | 'file'; readonly id: string }>
  readonly folderCount: number
  /** Files that are made of the whole site, which are among the files. */
  readonly made: readonly MadeFile[]
  /** What references begin with that name something of this site by its whole address; '' where nothing is said of it. */
  readonly publicAddress: string
}

/** Where trial pages stand in the preview. No scheme makes a folder that starts with a dot. */
export const trialFolder = '.trial/'

/** What names are computed from. */
export type Nameable = Pick<
  Site,
  'pages' | 'files' | 'homeId' | 'scheme' | 'language' | 'publicAddress' | 'output'
>

interface Known {
  readonly of: Nameable
  readonly names: Names
}

/**
 * Of each state of the pages the names with the latest two states of all else: a change of a file alone is held against what was
 * before it, time and again.
 */
const known = new WeakMap<readonly Page[], readonly Known[]>()

const isNamedAlike = (one: Nameable, other: Nameable) =>
  one.scheme === other.scheme &&
  one.files === other.files &&
  one.homeId === other.homeId &&
  one.language === other.language &&
  one.publicAddress === other.publicAddress &&
  one.output.sitemap === other.output.sitemap &&
  one.output.feed === other.output.feed

/** Names for every page and file of a site; computed once for each state of it. */
export function namesOf(site: Nameable): Names {
  const memos = known.get(site.pages) ?? []
  const memo = memos.find(({ of }) => isNamedAlike(of, site))
  if (memo) return memo.names
  const names = computeNames(site)
  known.set(site.pages, [{ of: site, names }, ...memos.slice(0, 1)])
  return names
}

/** Whether all pages share one folder, and so one set of names. */
export const isOneFolder = ({ arrangement }: Scheme): boolean =>
  arrangement.kind === 'together' || arrangement.kind === 'one-folder'

/** Names that no page of a folder can have; at the top a section called "Images" must not mix with the files. */
export function takenNames(scheme: Scheme, isTop: boolean): string[] {
  if (!isTop || isOneFolder(scheme)) return [scheme.homeName]
  return [
    scheme.homeName,
    ...new Set(Object.values(scheme.folders).flatMap((folder) => folder.split('/')[0] || [])),
  ]
}

interface Named {
  readonly page: Page
  readonly name: PageName
  readonly entry: { readonly kind: 'page'; readonly id: string }
}

/** The names of one folder's pages, with all that they came from. */
interface Group {
  readonly scheme: Scheme
  /** Of each of them. */
  readonly languages: readonly string[]
  readonly siblings: readonly Page[]
  readonly sections: readonly boolean[]
  readonly folder: string
  readonly isDated: boolean
  /** Names that none of them can have. */
  readonly taken: readonly string[]
  readonly named: readonly Named[]
}

/** Names of folders by their first page: an edit leaves all but one or two folders of a large site as they were. */
const groups = new WeakMap<Page, Group>()

const isGroupOf = (
  group: Group,
  scheme: Scheme,
  languages: readonly string[],
  siblings: readonly Page[],
  sections: readonly boolean[],
  folder: string,
  isDated: boolean,
  taken: readonly string[],
): boolean =>
  group.scheme === scheme &&
  group.folder === folder &&
  group.isDated === isDated &&
  group.siblings.length === siblings.length &&
  group.taken.length === taken.length &&
  taken.every((name, index) => name === group.taken[index]) &&
  siblings.every(
    (page, index) =>
      page === group.siblings[index] &&
      sections[index] === group.sections[index] &&
      languages[index] === group.languages[index],
  )

function computeNames(site: Nameable): Names {
  const { scheme, homeId } = site
  const tree = treeOf(site)
  const pages = new Map<string, PageName>()
  const byPath = new Map<string, { kind: 'page' | 'file'; id: string }>()
  const homeFile = scheme.homeName + scheme.extension
  const languages = languagesOf(site)
  const namerIn = namersOf(scheme)
  const nameOf = (page: Page) => namerIn(languages.of(page))(page.label)
  const front = frontOf(site, tree, languages)
  const isFronted = scheme.numbered || site.pages.some(({ dated }) => dated)
  const claimOf = (page: Page, sectionStem: string | null): Claim<Page> => {
    // A name held still stands before all others: it is the one its page has been known by.
    const own = page.ownName === null ? null : ownStem(page.ownName)
    const wanted =
      page.keptName ??
      own ??
      (isFronted ? frontedName(front(page), page, scheme, languages.of(page)) : nameOf(page).name)
    const rank = page.keptName !== null ? 0 : page.ownName !== null ? 1 : 2
    return {
      what: page,
      wanted,
      rank,
      seq: page.seq,
      second: sectionStem && sectionStem + scheme.gap + wanted,
    }
  }
  const nameAt = (
    page: Page,
    path: string,
    stem: string,
    container: string,
    clash: PageName['clash'],
  ): Named => {
    const folder = path.slice(0, path.lastIndexOf('/') + 1)
    const name = { path, folder, stem, container, nameless: stemless(page), clash }
    return { page, name, entry: { kind: 'page', id: page.id } }
  }
  const put = (...of: Parameters<typeof nameAt>) => {
    const { page, name, entry } = nameAt(...of)
    pages.set(page.id, name)
    byPath.set(name.path, entry)
  }
  const stemless = (page: Page) => page.id !== homeId && page.ownName === null && nameOf(page).nameless

  const home = tree.byId.get(homeId)
  if (home) put(home, homeFile, scheme.homeName, '', null)

  const everyReal = tree.places.filter((place) => !place.trial && place.page.id !== homeId)
  const withPaths = everyReal.filter(({ page }) => isOwnPath(page.ownName))
  const real = withPaths.length === 0 ? everyReal : everyReal.filter(({ page }) => !isOwnPath(page.ownName))
  const { placed, takenIn } = placeOwnPaths(
    withPaths.map(({ page }) => page),
    scheme,
  )
  const belowOf = new Map(placed.map(({ grant, below }) => [grant.what.id, below]))
  for (const { grant, path, container } of placed)
    put(grant.what, path, grant.name, container, clashOf(grant))
  const { arrangement } = scheme
  if (isOneFolder(scheme)) {
    const folder = arrangement.kind === 'one-folder' ? asPrefix(arrangement.folder) : ''
    const claims = real.map(({ page }) => {
      const parent = page.parentId === homeId ? undefined : page.parentId && tree.byId.get(page.parentId)
      if (!parent) return claimOf(page, null)
      const section = parent.ownName === null ? nameOf(parent).name : ownStem(parent.ownName)
      return claimOf(page, section)
    })
    const taken = [...takenNames(scheme, false), ...takenIn(folder)]
    for (const grant of settleNames(claims, taken, scheme))
      put(grant.what, folder + grant.name + scheme.extension, grant.name, folder, clashOf(grant))
  } else {
    const everyPage = arrangement.kind === 'folder-a-page'
    const beside = arrangement.kind === 'sections' && arrangement.sectionPage === 'beside'
    const isSection = (page: Page) => everyPage || tree.childrenOf(page.id).some((child) => !child.trial)
    const queue: { parent: Page | null; pages: readonly Page[]; folder: string }[] = [
      { parent: null, pages: [...tree.childrenOf(null), ...tree.childrenOf(homeId)], folder: '' },
    ]
    /** Names given in a folder: paths of pages' own can have two sections share one. */
    const given = new Map<string, readonly Named[]>()
    for (let at = 0; at < queue.length; at++) {
      const { parent, pages: siblings, folder } = queue[at]!
      const wanting = siblings.filter((page) => page.id !== homeId && !page.trial && !isOwnPath(page.ownName))
      const sections = wanting.map(isSection)
      const spoken = wanting.map(languages.of)
      const isDated = parent?.dated ?? false
      let group = groups.get(wanting[0]!)
      const key = placed.length > 0 ? clashKey(folder) : ''
      const before = placed.length > 0 ? (given.get(key) ?? []) : []
      const ofScheme = takenNames(scheme, folder === '')
      const taken =
        placed.length === 0
          ? ofScheme
          : [...ofScheme, ...takenIn(folder), ...before.map(({ name }) => name.stem)]
      if (!group || !isGroupOf(group, scheme, spoken, wanting, sections, folder, isDated, taken)) {
        const claims = wanting.map((page) => claimOf(page, null))
        const named = settleNames(claims, taken, scheme).map((grant) => {
          const page = grant.what
          const path =
            isSection(page) && !beside
              ? `${folder}${grant.name}/${homeFile}`
              : folder + grant.name + scheme.extension
          return nameAt(page, path, grant.name, folder, clashOf(grant))
        })
        group = {
          scheme,
          languages: spoken,
          siblings: wanting,
          sections,
          folder,
          isDated,
          taken,
          named,
        }
        if (wanting[0]) groups.set(wanting[0], group)
      }
      for (const { page, name, entry } of group.named) {
        pages.set(page.id, name)
        byPath.set(name.path, entry)
        const below = tree.childrenOf(page.id)
        if (below.length > 0) queue.push({ parent: page, pages: below, folder: `${folder}${name.stem}/` })
      }
      if (placed.length === 0) continue
      given.set(key, [...before, ...group.named])
      for (const page of siblings) {
        const below = belowOf.get(page.id)
        if (below !== undefined) queue.push({ parent: page, pages: tree.childrenOf(page.id), folder: below })
      }
    }
  }

  const trials = tree.places.filter((place) => place.trial && place.page.id !== homeId)
  const trialClaims = trials.map(({ page }) => claimOf(page, null))
  for (const grant of settleNames(trialClaims, [], scheme))
    put(grant.what, trialFolder + grant.name + scheme.extension, grant.name, trialFolder, null)

  const files = nameFiles(site, byPath)
  const made = madeFilesOf(site, byPath)
  for (const { id, path } of made) {
    files.set(id, path)
    byPath.set(path, { kind: 'file', id })
  }
  /** Counted where somebody asks. */
  let folderCount: number | null = null
  return {
    pages,
    files,
    byPath,
    get folderCount() {
      return (folderCount ??= countFolders(pages.values()))
    },
    made,
    publicAddress: site.publicAddress,
  }
}

/** How many folders pages stand in, those between them and the top among them. */
function countFolders(names: Iterable<PageName>): number {
  const folders = new Set<string>()
  let last = ''
  for (const { folder } of names) {
    // Most stand where the one before them does.
    if (folder === last || folder === trialFolder) continue
    last = folder
    for (let end = folder.length; end > 0; end = folder.lastIndexOf('/', end - 2) + 1) {
      const above = folder.slice(0, end)
      if (folders.has(above)) break
      folders.add(above)
    }
  }
  return folders.size
}

function clashOf({ name, wanted, heldBy }: Grant<Page>): PageName['clash'] {
  return name === wanted ? null : { wanted, heldBy: heldBy?.id ?? null }
}

/** How a page's path came about, step by step, in the order the rules acted. */
export function explainName(site: Nameable, pageId: string): NamingStep[] {
  const steps: NamingStep[] = []
  const tree = treeOf(site)
  const page = tree.byId.get(pageId)
  const name = namesOf(site).pages.get(pageId)
  if (!page || !name) return steps
  const { scheme } = site
  if (pageId === site.homeId) {
    steps.push({ rule: 'label', text: page.label }, { rule: 'home', text: name.path })
    return steps
  }
  if (page.ownName !== null) {
    steps.push({ rule: 'label', text: page.label }, { rule: 'own-name', text: page.ownName })
    if (page.keptName !== null && page.keptName !== page.ownName)
      steps.push({ rule: 'kept-name', text: page.keptName })
  } else {
    const languages = languagesOf(site)
    const language = languages.of(page)
    const front = frontOf(site, tree, languages)(page)
    if (front.date !== null && front.label !== page.label) steps.push({ rule: 'label', text: page.label })
    nameLabel(front.label, scheme, language, (step) =>
      steps.push(
        step.rule === 'label' && steps.length > 0
          ? { rule: 'date', text: `${front.date} ${step.text}`.trim() }
          : step,
      ),
    )
    const fronted = frontedName(front, page, scheme, language)
    if (front.date !== null && page.keptName === null)
      steps.push({
        rule: 'date',
        text: front.number === null ? fronted : fronted.slice(front.number.length + 1),
      })
    if (front.number !== null && page.keptName === null) steps.push({ rule: 'number', text: fronted })
    if (page.keptName !== null) steps.push({ rule: 'kept-name', text: page.keptName })
  }
  if (name.clash) steps.push({ rule: 'clash', text: name.stem })
  steps.push({ rule: tree.placeOf.get(pageId)?.trial ? 'trial' : 'folder', text: name.path })
  return steps
}
