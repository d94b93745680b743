import deepEqual from 'fast-deep-equal'
import {
  attributePlace,
  applyEdits,
  escapeAttribute,
  indentUnit,
  readHtml,
  type TextEdit,
  leadAt,
} from '#core/markup'
import { lineOf } from './own-line'
import { type HeadElement, type HeadPart, headOrder, readSkeleton, type ScriptUse } from './read-skeleton'

/** One thing that a skeleton is to say otherwise; null takes it out. */
export type SkeletonChange =
  | { readonly part: 'doctype' }
  | { readonly part: 'language'; readonly value: string }
  | {
      readonly part:
        'charset' | 'viewport' | 'description' | 'address' | 'translations' | 'feed' | 'author' | 'icon'
      readonly value: string | null
    }
  | { readonly part: 'styleSheets'; readonly value: readonly string[] }
  | { readonly part: 'scripts'; readonly value: readonly ScriptUse[] }

/** What fits a page to the width of what it is read on (CSS Viewport Module §3). */
export const fitsPhones = 'width=device-width, initial-scale=1'

const tag = (name: string, attributes: Readonly<Record<string, string | true>>) =>
  `<${name}${Object.entries(attributes)
    .map(([key, value]) => (value === true ? ` ${key}` : ` ${key}="${escapeAttribute(value)}"`))
    .join('')}>`

const scriptTag = ({ href, runs }: ScriptUse) =>
  `${tag('script', {
    src: href,
    ...(runs === 'deferred' ? { defer: true } : runs === 'module' ? { type: 'module' } : {}),
  })}</script>`

/** The lines that say a thing. */
function linesOf(change: HeadChange): string[] {
  switch (change.part) {
    case 'charset':
      return change.value === null ? [] : [tag('meta', { charset: change.value })]
    case 'address':
      return change.value === null ? [] : [tag('link', { rel: 'canonical', href: change.value })]
    case 'translations': {
      const hreflang = '{translation.language}'
      return change.value === null ? [] : [tag('link', { rel: 'alternate', hreflang, href: change.value })]
    }
    case 'feed':
      return change.value === null
        ? []
        : [
            tag('link', {
              rel: 'alternate',
              type: 'application/atom+xml',
              title: '{site}',
              href: change.value,
            }),
          ]
    case 'icon':
      return change.value === null ? [] : [tag('link', { rel: 'icon', href: change.value })]
    case 'styleSheets':
      return change.value.map((href) => tag('link', { rel: 'stylesheet', href }))
    case 'scripts':
      return change.value.map(scriptTag)
    default:
      return change.value === null ? [] : [tag('meta', { name: change.part, content: change.value })]
  }
}

/**
 * A template's source that says one thing otherwise: written where a tidy head has it, on lines of their
 * own. Everything else stays as it is, to the letter.
 */
export function writeSkeleton(source: string, change: SkeletonChange): string {
  const skeleton = readSkeleton(source)
  if (change.part === 'doctype') {
    if (!skeleton.hasDoctype) return `<!DOCTYPE html>\n${source.trimStart()}`
    if (!skeleton.isQuirky) return source
    const end = skeleton.doctypeEnd!
    return `${source.slice(0, source.lastIndexOf('<!', end))}<!DOCTYPE html>${source.slice(end)}`
  }
  if (change.part === 'language') {
    const where = skeleton.html?.sourceCodeLocation
    if (!where?.startTag) return source
    const lang = `lang="${escapeAttribute(change.value)}"`
    const at = attributePlace(skeleton.html!, 'lang')
    const edit = at
      ? { start: at.startOffset, end: at.endOffset, text: lang }
      : { start: where.startTag.startOffset + '<html'.length, end: where.startTag.startOffset + '<html'.length, text: ` ${lang}` } // prettier-ignore
    return applyEdits(source, [edit])
  }
  return applyEdits(source, headEdits(source, change))
}

/** A change of what the head says. */
export type HeadChange = Exclude<SkeletonChange, { part: 'doctype' | 'language' }>

/** The edits after which a template's head says one thing otherwise; none where it says it already. */
export function headEdits(source: string, change: HeadChange): TextEdit[] {
  const skeleton = readSkeleton(source)
  if (deepEqual(skeleton[change.part], change.value)) return []
  const own = skeleton.elements.filter((one) => one.part === change.part)
  const lines = keptAsWritten(source, change, own)
  const edits: TextEdit[] = []
  // What says it already gives way, all but the first: that is where it is said from now on.
  const [first, ...others] = own
  const rest = lines.length === 0 ? own : others
  for (const element of rest) edits.push({ ...lineOf(source, element), text: '' })
  if (lines.length > 0)
    edits.push(first ? replaced(source, first, lines) : inserted(source, change.part, lines))
  return merged(edits)
}

/** Lines of a thing; an element that says the same already stays as its author wrote it. */
function keptAsWritten(source: string, change: HeadChange, own: readonly HeadElement[]): string[] {
  const values = change.part === 'styleSheets' || change.part === 'scripts' ? change.value : []
  return linesOf(change).map((line, index) => {
    const value = values[index]
    const same = own.find((one) =>
      typeof value === 'object'
        ? one.value === value.href && one.runs === value.runs
        : value !== undefined && one.value === value,
    )
    return same ? source.slice(same.start, same.end) : line
  })
}

function replaced(source: string, first: HeadElement, lines: readonly string[]): TextEdit {
  const lead = leadAt(source, first.start)
  return { start: first.start, end: first.end, text: lines.join(`\n${lead}`) }
}

/** After what stands before it in a tidy head, else where the head begins. */
function inserted(source: string, part: HeadPart, lines: readonly string[]): TextEdit {
  const { elements, headStart } = readSkeleton(source)
  const before = headOrder.slice(0, headOrder.indexOf(part))
  const last = elements.filter((one) => before.includes(one.part)).pop()
  const following = elements.find((one) => !before.includes(one.part))
  if (last) {
    const lead = leadAt(source, last.start)
    return { start: last.end, end: last.end, text: lines.map((line) => `\n${lead}${line}`).join('') }
  }
  const unit = indentUnit(source, readHtml(source, true).fixed)
  const lead = following
    ? leadAt(source, following.start)
    : headStart === 0
      ? ''
      : leadAt(source, headStart) + unit
  const text = lines.map((line) => `\n${lead}${line}`).join('')
  return { start: headStart, end: headStart, text: headStart === 0 ? text.trimStart() + '\n' : text }
}

/** Edits that touch are parted: of two that would take one line, the first takes it. */
function merged(edits: readonly TextEdit[]): TextEdit[] {
  let at = 0
  return [...edits]
    .sort((a, b) => a.start - b.start || a.end - b.end)
    .map((edit) => {
      const start = Math.max(at, edit.start)
      at = Math.max(at, edit.end)
      return { ...edit, start, end: Math.max(start, edit.end) }
    })
}
