import { resolveReference } from '#core/links'
import { applyEdits, findCssReferences, type HtmlFacts, type Reference, saysUnlisted } from '#core/markup'
import { forwardersOf, forwarderText } from './forwarders'
import { madeText, pagesIn } from './made'
import { ancestorsOf } from '#core/plan'
import {
  contentsOfPages,
  emptyHash,
  mainSlot,
  type Hash,
  type Page,
  type Site,
  type SiteFile,
  slotOf,
  textsOfPage,
  type TextOf,
} from '#core/site'
import {
  type CompiledTemplate,
  type Composed,
  contextOf,
  feedAddress,
  generatedSignature,
  generatedWeight,
  homeFileOf,
  isErrorPage,
  mostPageBytes,
  outputReference,
  pageAddress,
  pageTitle,
  placeContent,
  planReference,
  renderPage,
  SiteTemplates,
  type SlotContent,
  type Trace,
  weightBound,
  weightRefusal,
} from '#core/template'

/** One file of the finished site. */
export interface BuiltEntry {
  readonly path: string
  readonly kind: 'page' | 'file'
  readonly id: string
  /** The home page, which is delivered last. */
  readonly isHome: boolean
  /** For a file whose bytes are taken as they are: their hash and size. Null for what is made here. */
  readonly stored: { readonly hash: Hash; readonly sizeBytes: number } | null
}

/** What a build reads besides the site itself. */
export interface BuildSources {
  readonly textOf: TextOf
  /** What reading a content yields; the same hash always yields the same. */
  readonly factsOf: (hash: Hash) => HtmlFacts
  /** References of a style sheet, read already; without it they are read each time they are asked for. */
  readonly cssOf?: (hash: Hash) => readonly Reference[]
  /** Makes a short text of a long one, equal for equal ones only; without it signatures are long. */
  readonly digest?: (text: string) => string
  /** Whether each page is made once, and nothing is kept for making it again. */
  readonly isOnce?: boolean
  /** The year that `{year}` stands for: the core has no clock. */
  readonly year: number
  /**
   * The folder that visitors see the site in, from `/` to `/`: pages that a host shows in place of others have references
   * from the top. Without it all are relative.
   */
  readonly publicPath?: string | null
}

/** A finished page, and what wrote it. */
export interface PageTrace {
  readonly text: string
  readonly trace: Trace
  readonly composed: Composed | null
}

/** A site ready to be made, file by file. Nothing is rendered before it is asked for. */
export interface Build {
  /** Every file of the site, by path in code-unit order; trial pages are not among them. */
  readonly entries: readonly BuiltEntry[]
  /** The text of a page or style sheet, `\n` line ends. Trial pages too. */
  textOf(id: string): string
  /** A page's text as it is written here, what wrote each stretch of it, and its template put together. */
  traceOf(id: string): PageTrace
  /** Why it is more than can be made; null where it is not. Nothing is made to know it. */
  refusal(): string | null
  /** Equal signatures mean equal texts, so a text made earlier can stand. No text of a page is read for it. */
  signatureOf(id: string): string
  /** What texts of pages are read to make a text, by their hashes. */
  readsOf(id: string): readonly Hash[]
}

/** Prepares the finished site. The same site and sources give the same bytes, always. */
export function buildSite(site: Site, sources: BuildSources): Build {
  const { publicPath = null } = sources
  const context = contextOf(site, publicPath)
  const { tree, names, languages, translations, dates } = context
  const templates = new SiteTemplates(site, sources.textOf)
  const files = new Map(site.files.map((file) => [file.id, file]))
  const homeFile = homeFileOf(site)
  const { digest = (text: string) => text } = sources
  const shared = JSON.stringify([
    site.name,
    site.language,
    site.titlePattern,
    site.homeTitlePattern,
    site.publicAddress,
    site.output,
    sources.year,
  ])
  const withLineEnds = (text: string) => (site.output.lineEnd === 'crlf' ? text.replace(/\n/g, '\r\n') : text)

  const entries: BuiltEntry[] = []
  for (const { page, trial } of tree.places) {
    if (trial) continue
    const { path } = names.pages.get(page.id)!
    entries.push({ path, kind: 'page', id: page.id, isHome: page.id === site.homeId, stored: null })
  }
  for (const file of site.files) {
    const { hash, sizeBytes } = file
    const stored = isMade(file) ? null : { hash, sizeBytes }
    entries.push({ path: names.files.get(file.id)!, kind: 'file', id: file.id, isHome: false, stored })
  }
  const forwarders = new Map(forwardersOf(site).map((forwarder) => [`forward ${forwarder.path}`, forwarder]))
  for (const [id, { path }] of forwarders)
    entries.push({ path, kind: 'page', id, isHome: false, stored: null })
  const made = new Set(names.made.map(({ id }) => id))
  for (const { id, path } of names.made) entries.push({ path, kind: 'file', id, isHome: false, stored: null })
  entries.sort((a, b) => (a.path < b.path ? -1 : 1))

  const styleText = (file: SiteFile): string => {
    const css = sources.textOf(file.hash)
    const path = names.files.get(file.id)!
    const edits = (sources.cssOf?.(file.hash) ?? findCssReferences(css)).flatMap((reference) => {
      const text = outputReference(context, planReference(reference), path)
      return text === null ? [] : [{ start: reference.start, end: reference.end, text }]
    })
    return applyEdits(css, edits)
  }

  const contentOf = (page: Page, slot: string): SlotContent | null => {
    const hash = slotOf(page, slot)
    return hash === emptyHash
      ? null
      : { text: sources.textOf(hash), facts: sources.factsOf(hash), isOnce: sources.isOnce }
  }
  /** What a page is written in first, by itself, as it stands in the finished page. */
  const mainText = (page: Page): string => {
    const content = contentOf(page, mainSlot)
    const pieces: string[] = []
    if (content) placeContent(context, content, names.pages.get(page.id)!.path, '', pieces)
    return pieces.join('')
  }
  /** What stands for it where only has to be known whether it is the same. */
  const mainSignature = (page: Page): string => {
    const hash = slotOf(page, mainSlot)
    const { path } = names.pages.get(page.id)!
    return hash === emptyHash ? '' : `${hash} ${targetsOf(sources.factsOf(hash).references, path)}`
  }

  const neverTooLarge = weightBound(context)
  const pageText = (page: Page, trace?: Trace): string => {
    const template = templates.of(page)
    if (!neverTooLarge(template) && generatedWeight(context, template, page) > mostPageBytes)
      throw new RangeError(weightRefusal(context, (one) => templates.of(one)) ?? 'The page is too large.')
    return renderPage(context, template, page, (slot) => contentOf(page, slot), sources.year, trace)
  }

  /** Where the references of a text lead, as far as another page's change can alter it. */
  const targetsOf = (references: readonly Reference[], path: string): string =>
    references
      .map((reference) => {
        const target = resolveReference(reference.href, path, names, homeFile)
        return target.kind === 'page' || target.kind === 'file' ? target.path : ''
      })
      .join('\u0001')

  const home = tree.byId.get(site.homeId)
  const homes = home ? [home, ...translations.of(home).filter((one) => one !== home)] : []
  /** Templates that say so of all their pages. */
  const unlistedBy = new Map<string, boolean>()
  /** What all pages of one template share, worked out once; and its parts that each page has its own of. */
  const sharedBy = new Map<
    string,
    {
      signature: string
      own: CompiledTemplate['generated']
      slots: string[]
      perLanguage: number
    }
  >()
  const sharedOf = (templateId: string) => {
    let known = sharedBy.get(templateId)
    if (!known) {
      const template = templates.compiled(templateId)
      // A top menu is the same for all pages.
      const wholeSite = ({ part, attributes }: CompiledTemplate['generated'][number]) =>
        (part.sharedLevels?.(attributes) ?? null) !== null
      // A home page in another language lists what is in that.
      const menus = homes.flatMap((one) =>
        template.generated.filter(wholeSite).map((part) => generatedSignature(context, part, one, digest)),
      )
      known = {
        signature: digest(
          [
            shared,
            templates.sourcesOf(templateId),
            targetsOf(template.references, ''),
            ...homes.map((one) => `${languages.of(one)} ${names.pages.get(one.id)!.path}`),
            ...menus,
          ].join('\u0003'),
        ),
        own: template.generated.filter((part) => !wholeSite(part)),
        slots: [...new Set(template.slots.map((slot) => slot.name))],
        perLanguage: template.perLanguage,
      }
      sharedBy.set(templateId, known)
    }
    return known
  }

  return {
    entries,
    refusal: () => weightRefusal(context, (page) => templates.of(page)),
    textOf(id) {
      const file = files.get(id)
      if (file) return isMade(file) ? styleText(file) : sources.textOf(file.hash)
      if (made.has(id)) return withLineEnds(madeText(site, id, { isUnlisted, textOf: mainText }))
      const forwarder = forwarders.get(id)
      return withLineEnds(forwarder ? forwarderText(site, forwarder) : pageText(tree.byId.get(id)!))
    },
    traceOf(id) {
      const page = tree.byId.get(id)!
      const trace: Trace = []
      const text = pageText(page, trace)
      return { text, trace, composed: templates.composed(templates.idOf(page)) }
    },
    readsOf(id) {
      const page = tree.byId.get(id)
      return page ? contentsOfPages([page]) : pagesIn(site, id).map((one) => slotOf(one, mainSlot))
    },
    signatureOf(id) {
      const file = files.get(id)
      if (file) return isMade(file) ? `${file.hash}\u0003${styleText(file)}` : file.hash
      if (made.has(id))
        return `${JSON.stringify(site.output)}${madeText(site, id, { isUnlisted, textOf: mainSignature })}`
      const forwarder = forwarders.get(id)
      if (forwarder) return withLineEnds(forwarderText(site, forwarder))
      const page = tree.byId.get(id)!
      const { path } = names.pages.get(id)!
      const { signature, own, slots, perLanguage } = sharedOf(templates.idOf(page))
      return [
        signature,
        path,
        isErrorPage(path) ? (publicPath ?? '') : '',
        ancestorsOf(tree, page)
          .map((above) => above.id)
          .join(),
        page.label,
        languages.of(page),
        dates.of(page)?.date ?? '',
        site.output.feed ? feedAddress(site, languages.of(page)) : '',
        ...(perLanguage > 0
          ? translations.of(page).map((one) => `${languages.of(one)} ${pageAddress(site, one)}`)
          : []),
        pageTitle(page),
        page.description ?? '',
        ...slots.flatMap((slot) => {
          const hash = slotOf(page, slot)
          return hash === emptyHash ? [''] : [hash, targetsOf(sources.factsOf(hash).references, path)]
        }),
        ...own.map((part) => generatedSignature(context, part, page, digest)),
      ].join('\u0003')
    },
  }

  /** Whether a page, or the template it is made with, says that it is not to be found. */
  function isUnlisted(page: Page): boolean {
    const id = templates.idOf(page)
    let says = unlistedBy.get(id)
    if (says === undefined) unlistedBy.set(id, (says = saysUnlisted(templates.composed(id)?.text ?? '')))
    return says || textsOfPage(page).some(({ hash }) => sources.factsOf(hash).isUnlisted)
  }

  /** Style sheets are written anew, since their references are made relative. */
  function isMade(file: SiteFile): boolean {
    return file.kind === 'style' && /\.css$/i.test(file.label)
  }
}
