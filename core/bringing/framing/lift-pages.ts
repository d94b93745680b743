import { applyEdits, type FileSyntax, type Range, referencesOfFile, writeReference } from '#core/markup'
import { withoutSteps, writtenFromPage } from '#core/links'
import { type Hash, mainSlot, type Template } from '#core/site'
import { compileTemplate, translationValues, valueNames } from '#core/template'
import type { Group } from './group'
import {
  charsetEdits,
  type Goals,
  type Lifted,
  liftTemplate,
  mendedHref,
  mendsIn,
  type Model,
  sliceWith,
} from './lift-template'
import type { ReadPage } from '../reading/read-page'

export interface BringingTools {
  readonly newId: () => string
  /** Keeps a text, and names it. */
  readonly put: (text: string) => Hash
  readonly sizeOf: (text: string) => number
  /** Puts a page's text aside until it is compared with what comes out: those of all pages are much. Kept as they are without it. */
  readonly aside?: (text: string) => () => string
  /** Called for each page that has been read. */
  readonly onPage?: () => void
}

/** A group of pages and the template that was found in them. */
export interface FoundTemplate {
  readonly templateId: string
  readonly name: string
  readonly pageIds: readonly string[]
  /** Slots of it beside the one that pages are written in. */
  readonly slots: readonly string[]
  /** Whether its pages are kept whole. */
  readonly isWhole: boolean
  /** The page that it was lifted from; null for pages that are kept whole. */
  readonly model: Model | null
}

/** What a page holds, as its row has it: texts by what names them, those that are empty left out. */
export interface Stored {
  readonly content: Hash
  readonly slots: Readonly<Record<string, Hash>>
}

/** What a page holds, and the template that shows it. */
export interface Held extends Stored {
  readonly templateId: string
}

/** Templates of pages that were brought in, and what each page holds. */
export interface LiftedPages {
  readonly templates: readonly Template[]
  readonly found: readonly FoundTemplate[]
  readonly held: ReadonlyMap<string, Held>
  /** Where a page had what a generated part makes now. */
  readonly madeIn: ReadonlyMap<string, readonly Range[]>
}

const wholeTemplate = '<slot name="content"></slot>\n'

/** All of a page, its references leading to where things stand now. */
export function wholeText(page: ReadPage, goals: Goals, range?: Range): string {
  const all = range ?? { start: 0, end: page.text.length }
  const to = goals.names.pages.get(page.id)!.path
  const edits = [...mendsIn(page, all, to, goals), ...charsetEdits(page)]
  return sliceWith(
    page.text,
    all,
    edits.filter(({ start, end }) => start >= all.start && end <= all.end),
  )
}

/** What would be taken for the template's own words where a page has it in its frame. */
const valueInText = new RegExp(`\\{(${[...valueNames, ...translationValues].join('|')}|slot\\.[\\w-]+)\\}`)

/**
 * Whether a template says what it is meant to: a parser drops a slot where none can stand, as in a frameset, and what a page
 * has there would be lost; and braces of a page's own would become a value.
 */
function isReadAsMeant({ source, model }: Lifted, { parts }: Group): boolean {
  const compiled = compileTemplate(source)
  const meant = model.slots.flatMap(({ name }) => name ?? [])
  const found = compiled.slots.flatMap(({ name, isValue }) => (isValue ? [] : [name]))
  if (meant.length !== found.length || !meant.every((name) => found.includes(name))) return false
  const own = [...model.slots, ...model.written]
    .sort((a, b) => b.start - a.start)
    .reduce((text, { start, end }) => text.slice(0, start) + text.slice(end), model.text)
  const generated = parts.filter(({ part }) => part.html !== '').length
  return !valueInText.test(own) && compiled.generated.length === generated
}

/**
 * Lifts a template out of each group of several pages; pages that are alone share one that shows them whole.
 * @param nameOf what `{page}` stands for
 * @param nameTemplate what the nth template is called, and the one of whole pages (null)
 * @param titleText what the template of a group writes for a page's title
 */
export function liftPages(
  groups: readonly Group[],
  nameOf: (id: string) => string,
  goals: Goals,
  { newId, put }: BringingTools,
  nameTemplate: (nth: number | null) => string,
  titleText: (group: Group) => string,
): LiftedPages {
  const templates: Template[] = []
  const found: FoundTemplate[] = []
  const held = new Map<string, Held>()
  const alone: ReadPage[] = []
  const madeIn = new Map<string, readonly Range[]>()
  for (const group of groups) {
    if (group.pages.length < 2) {
      alone.push(...group.pages)
      continue
    }
    const lifted = liftTemplate(group, nameOf, goals, titleText(group))
    if (!isReadAsMeant(lifted, group)) {
      alone.push(...group.pages)
      continue
    }
    const { model } = lifted
    const source = put(lifted.source)
    // Pages in two languages have two frames, which say the same once each says its language by a value.
    const same = templates.findIndex((one) => one.source === source)
    const before = found[same]
    const templateId = before?.templateId ?? newId()
    const name = before?.name ?? nameTemplate(templates.length)
    const names = new Set<string>(before?.slots)
    for (const { page, slots } of lifted.held()) {
      for (const slot of Object.keys(slots)) names.add(slot)
      held.set(page.id, { templateId, ...storedSlots(slots, put) })
    }
    names.delete(mainSlot)
    const pageIds = group.pages.map(({ id }) => id)
    const all = { pageIds: [...(before?.pageIds ?? []), ...pageIds], slots: [...names] }
    if (before) found[same] = { ...before, ...all }
    else {
      templates.push({ id: templateId, name, source, basedOn: null })
      found.push({ templateId, name, ...all, isWhole: false, model })
    }
    const made = group.parts.filter(({ part }) => part.html !== '')
    for (const [at, id] of pageIds.entries())
      madeIn.set(
        id,
        made.flatMap(({ ranges }) => ranges[at] ?? []),
      )
  }
  if (alone.length > 0) {
    const templateId = newId()
    const name = nameTemplate(null)
    templates.push({ id: templateId, name, source: put(wholeTemplate), basedOn: null })
    found.push({
      templateId,
      name,
      pageIds: alone.map(({ id }) => id),
      slots: [],
      isWhole: true,
      model: null,
    })
    for (const page of alone)
      held.set(page.id, { templateId, ...storedSlots({ [mainSlot]: wholeText(page, goals) }, put) })
  }
  return { templates, found, held, madeIn }
}

/** Keeps what a page holds. */
export function storedSlots(slots: Readonly<Record<string, string>>, put: BringingTools['put']): Stored {
  const { [mainSlot]: content = '', ...others } = slots
  return {
    content: put(content),
    slots: Object.fromEntries(
      Object.entries(others)
        .filter(([, text]) => text !== '')
        .map(([slot, text]) => [slot, put(text)]),
    ),
  }
}

/**
 * A file with its references leading to where things stand now; as it came where none has to.
 * @param from where it stood, and `to` where it stands now
 */
export function mendedFile(text: string, syntax: FileSyntax, from: string, to: string, goals: Goals): string {
  // Style sheets are written anew wherever they go out; other files stay as they are to the byte.
  const own = syntax === 'css' ? text.replace(/\r\n?/g, '\n') : text
  const edits = referencesOfFile(own, syntax).flatMap((reference) => {
    const href = reference.fromPage
      ? mendedFromPage(reference.href, from, to, goals)
      : mendedHref(reference, from, to, goals)
    return href === null
      ? []
      : [{ start: reference.start, end: reference.end, text: writeReference(reference, href) }]
  })
  return applyEdits(own, edits)
}

/** What a script names from the pages that run it, or from where it stands itself. */
function mendedFromPage(href: string, from: string, to: string, goals: Goals): string | null {
  const { resolve } = goals.old
  const fromTop = resolve(`/${withoutSteps(href)}`, '')
  const target = fromTop.kind === 'missing' ? resolve(href, from) : fromTop
  if (target.kind !== 'page' && target.kind !== 'file') return null
  const path =
    target.kind === 'page' ? goals.names.pages.get(target.id)?.path : goals.names.files.get(target.id)
  if (path === undefined) return null
  const written = writtenFromPage(href, target.path, path, target.suffix)
  const next = written ?? mendedHref({ href }, from, to, goals)
  return next === href ? null : next
}
