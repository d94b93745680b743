import type { ComparedPage, FrameMark, Model, Remark, SamePage } from '#core/bringing'
import type { BringIn, Change } from '#core/change'
import { namesOf } from '#core/naming'
import { treeOf } from '#core/plan'
import { Problem } from '#core/problems'
import { checkSite, emptyHash, type Hash, type Page, type Site } from '#core/site'
import { putBlobs, readAhead, readFilesAhead } from '#server/contents'
import { eachOf, log, noteRequest, pool, type Queryable, requestMade, transaction } from '#server/platform'
import {
  bringAddresses,
  changeSite,
  insertSite,
  previewChange,
  readTemplateAhead,
  revisionOf,
  type RippleView,
} from '#server/sites'
import { deleteBringing } from './bringing-rows'
import type { Watch } from './in-thread'
import {
  type BringingWishes,
  forgetUnderstood,
  understandWaiting,
  type UnderstoodSite,
} from './understanding'

/** A page as it would be brought in. */
export interface BroughtLine {
  readonly label: string
  readonly depth: number
  readonly was: string
  readonly path: string
  readonly template: string
  /** `here`: of the site that it joins already; `framed`: put into that site's template. */
  readonly outcome: ComparedPage['outcome'] | 'here' | 'framed'
  /** Whether it takes the place of what a page of the site held. */
  readonly isAnew: boolean
}

/** What was understood, as far as it is shown. */
export interface BringingView {
  readonly name: string
  readonly language: string
  readonly titlePattern: string
  /** Where visitors find it, as its pages say; '' where they do not. */
  readonly publicAddress: string
  /** The first pages in reading order. */
  readonly lines: readonly BroughtLine[]
  /** All of them; in a site that is joined, with those that they are below. */
  readonly lineCount: number
  /** Whether the plan is as its author corrected it. */
  readonly isCorrected: boolean
  readonly fileCount: number
  readonly templates: readonly {
    readonly name: string
    readonly pages: number
    readonly slots: readonly string[]
    readonly isWhole: boolean
    readonly source: string
    /** The page that it was lifted from; null where it is whole, or too long to be shown. */
    readonly model: Model | null
  }[]
  /** Where its author moved the edges of slots. */
  readonly marks: readonly FrameMark[]
  readonly otherwise: readonly ComparedPage[]
  /** Pages that differ in their menus alone, and one of them. */
  readonly menus: { readonly pages: number; readonly example: ComparedPage } | null
  readonly remarks: readonly Remark[]
  /** Of pages that join a site. */
  readonly joining: {
    readonly siteName: string
    /** The label of the page that they come under; null at the top. */
    readonly under: string | null
    readonly pages: number
    readonly files: number
    /** What the site has at the same addresses. */
    readonly same: readonly SamePage[]
    /** What else it touches; null where nothing comes. */
    readonly ripple: RippleView | null
  } | null
}

/** Lines of a list that are shown; of more, the number tells. */
const mostShown = 2_000
/** Letters of all models that are shown, in UTF-16 code units; the largest templates come first. */
const mostOfModels = 400_000

/** Understands what waits, and tells it. Nothing is made. */
export async function lookAtBringing(
  accountId: string,
  id: string,
  wishes: BringingWishes,
  watch?: Watch,
): Promise<BringingView> {
  const understood = await understandWaiting(accountId, id, wishes, watch)
  const { site, templates, compared, remarks, texts, joining } = understood
  const names = namesOf(site)
  const byId = new Map(compared.map((one) => [one.id, one]))
  const templateOf = new Map(
    templates.flatMap(({ name, pageIds }) => pageIds.map((pageId) => [pageId, name])),
  )
  const textOf = (hash: Hash) => texts.get(hash)?.toString()
  const byMenus = compared.filter(({ outcome }) => outcome === 'menus')
  const stood = new Map(joining?.paths ?? compared.map(({ id: pageId, path }) => [pageId, path]))
  const anew = new Set(joining?.change.anew.map(({ id: pageId }) => pageId))
  let room = mostOfModels
  const models = templates.map(({ model }) => {
    room -= model?.text.length ?? 0
    return room < 0 ? null : model
  })
  const shown = joining ? branchesWith(site, new Set(stood.keys())) : treeOf(site).places
  return {
    name: site.name,
    language: site.language,
    titlePattern: site.titlePattern,
    publicAddress: site.publicAddress,
    fileCount: joining ? joining.change.files.length + joining.change.filesAnew.length : site.files.length,
    isCorrected: understood.isCorrected,
    lineCount: shown.length,
    lines: shown.slice(0, mostShown).map(({ page, depth }) => {
      const { path } = names.pages.get(page.id)!
      return {
        label: page.label,
        depth,
        was: stood.get(page.id) ?? path,
        path,
        template: templateOf.get(page.id) ?? '',
        outcome: byId.get(page.id)?.outcome ?? (stood.has(page.id) ? 'framed' : 'here'),
        isAnew: anew.has(page.id),
      }
    }),
    marks: understood.marks,
    templates: templates.map(({ templateId, name, pageIds, slots, isWhole }, index) => ({
      name,
      pages: pageIds.length,
      slots,
      isWhole,
      source: (textOf(site.templates.find((one) => one.id === templateId)?.source ?? '') ?? '').slice(
        0,
        20_000,
      ),
      model: models[index]!,
    })),
    menus: byMenus.length > 0 ? { pages: byMenus.length, example: byMenus[0]! } : null,
    otherwise: compared.filter(({ outcome }) => outcome === 'otherwise').slice(0, 200),
    remarks: remarks.slice(0, mostShown),
    joining: await viewJoining(accountId, understood, wishes),
  }
}

/** Some pages, and those that they are below. */
function branchesWith(site: Site, pageIds: ReadonlySet<string>) {
  const { places, byId } = treeOf(site)
  const wanted = new Set<string>()
  for (const id of pageIds)
    for (let at: string | null = id; at !== null && !wanted.has(at); at = byId.get(at)?.parentId ?? null)
      wanted.add(at)
  return places.filter(({ page }) => wanted.has(page.id))
}

/** What a thread sent may have objects of another realm, which are never equal to those of this one. */
function ofThisRealm(change: BringIn): BringIn {
  const own = <T extends Pick<Page, 'slots'>>(page: T): T => ({ ...page, slots: { ...page.slots } })
  return { ...change, pages: change.pages.map(own), anew: change.anew.map(own) }
}

/** The change as far as it touches others: its texts are not stored before it is made. */
function withoutTexts({ pages, files, anew, filesAnew }: BringIn): Change {
  const bare = { content: emptyHash, slots: {}, templateId: null }
  const empty = { hash: emptyHash, sizeBytes: 0 }
  return {
    kind: 'bringIn',
    templates: [],
    pages: pages.map((page) => ({ ...page, ...bare })),
    anew: anew.map((page) => ({ ...page, ...bare })),
    files: files.map((file) => ({ ...file, ...empty })),
    filesAnew: filesAnew.map((file) => ({ ...file, ...empty })),
  }
}

async function viewJoining(
  accountId: string,
  { into, joining }: UnderstoodSite,
  { under }: BringingWishes,
): Promise<BringingView['joining']> {
  if (!into || !joining) return null
  const { change, same } = joining
  const pages = change.pages.length + change.anew.length
  const ripple = pages === 0 ? null : await previewChange(into.site.id, accountId, () => withoutTexts(change))
  return {
    siteName: into.site.name,
    under: into.site.pages.find(({ id }) => id === under)?.label ?? null,
    pages,
    files: change.files.length + change.filesAnew.length,
    same: same.slice(0, mostShown),
    ripple,
  }
}

/** Texts that are read at a time, by threads that are fewer. */
const readAtOnce = 4

/**
 * Makes the site of what waits, or has it join one; asked for again under one request id, it is made once.
 * @throws Problem `too-heavy`, `template-too-heavy`, `not-whole`
 */
export async function bringIn(
  accountId: string,
  id: string,
  wishes: BringingWishes & { readonly name: string },
  requestId: string,
): Promise<string> {
  let understood: UnderstoodSite
  try {
    understood = await understandWaiting(accountId, id, wishes)
  } catch (error) {
    // What waited is gone once it was made: who did not hear of that is told what came of it.
    const before = await requestMade(pool(), accountId, requestId)
    const made = before && (before.result ?? wishes.into)
    if (made) return made
    throw error
  }
  const { texts, templates } = understood
  const site: Site = { ...understood.site, name: wishes.name.trim() || understood.site.name }
  if (checkSite(site).length > 0) {
    log.error({ faults: checkSite(site) }, 'a site that was brought in is not whole')
    throw new Problem('not-whole')
  }
  const textOf = (hash: Hash) => texts.get(hash)?.toString()
  const made = understood.joining?.change.templates ?? site.templates
  for (const { source } of made) await readTemplateAhead(textOf(source) ?? '')
  const sources = new Set(made.map(({ source }) => source))
  const files = understood.joining?.change.files ?? site.files
  const ofFiles = new Set(files.map(({ hash }) => hash))
  const pageTexts = texts.hashes.filter((hash) => !sources.has(hash) && !ofFiles.has(hash))
  await eachOf(pageTexts, readAtOnce, (hash) => readAhead('html', textOf(hash)!))
  await readFilesAhead(files, textOf)
  log.info({ pages: site.pages.length, files: site.files.length, templates: templates.length }, 'brought in')
  forgetUnderstood()
  const putTexts = async (client: Queryable) => {
    const { hashes } = texts
    for (let at = 0; at < hashes.length; at += 200)
      await putBlobs(
        client,
        hashes.slice(at, at + 200).map((hash) => texts.get(hash)!),
      )
  }
  const { into, joining } = understood
  if (into && joining) {
    const { site: joined, revision } = into
    const prepare = async (client: Queryable): Promise<Change> => {
      // What was worked out holds for the site as it was then.
      if ((await revisionOf(client, joined.id)) !== revision)
        throw new Problem('changed-elsewhere', { why: meanwhile })
      await putTexts(client)
      await bringAddresses(client, joined.id, addressesOf(joining.change.pages))
      return { kind: 'bringIn', ...ofThisRealm(joining.change) }
    }
    await changeSite(joined.id, accountId, revision, prepare, true, requestId)
    await deleteBringing(pool(), accountId, id)
    return joined.id
  }
  return transaction(async (client) => {
    const noted = await noteRequest(client, accountId, requestId, site.id)
    if (noted !== 'new') return noted.result!
    await putTexts(client)
    await insertSite(client, site, accountId)
    await bringAddresses(client, site.id, addressesOf(site.pages))
    await deleteBringing(client, accountId, id)
    return site.id
  })
}

/** Addresses under which pages are known to the world, wherever they are delivered to from now on. */
const addressesOf = (pages: readonly Pick<Page, 'id' | 'addresses'>[]) =>
  pages.flatMap(({ id, addresses }) => addresses.map((path) => ({ pageId: id, path })))

const meanwhile =
  'The site was changed in another window meanwhile. Choose anything once more to see how its pages would join now.'
