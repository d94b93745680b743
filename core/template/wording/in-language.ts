import { directionOf } from '#core/language'
import {
  attributePlace,
  applyEdits,
  attributeValueRange,
  escapeAttribute,
  escapeText,
  parseHtml,
  type TextEdit,
  walkHtml,
} from '#core/markup'
import { english, wordings } from './wordings'

/** The words of a language, in the order of `english`; null where they are not known. */
function wordsIn(language: string): readonly string[] | null {
  const primary = language.toLowerCase().split('-')[0]!
  return primary === 'en'
    ? english
    : (wordings[primary === 'no' || primary === 'nn' ? 'nb' : primary] ?? null)
}

/** What is said in a language, by how it is said in others. */
function bySaid(
  words: readonly string[],
  others: readonly (readonly string[])[],
): ReadonlyMap<string, string> {
  const said = new Map<string, string>()
  for (const other of others)
    for (const [index, word] of other.entries())
      if (!words.includes(word) && !said.has(word)) said.set(word, words[index]!)
  return said
}

/**
 * A template that ships, as it is for a site in another language: what it says in English, to those who see it and to those
 * who hear it, is said in that language where it is known, and `dir` says which way that is written where it is from
 * right to left (HTML §3.2.6.4). Anything else stays as it is.
 */
export function inLanguage(source: string, language: string): string {
  const words = wordsIn(language)
  const isRightToLeft = directionOf(language) === 'rtl'
  if (!words && !isRightToLeft) return source
  return applyEdits(source, wordEdits(source, words ? bySaid(words, [english]) : null, isRightToLeft))
}

/** A word that a template says, and what stands for it in another language. */
export interface OtherWord extends TextEdit {
  readonly word: string
}

/** What a template says in the words of one that ships, in another language than it ought to. */
export function wordsInOther(source: string, language: string): OtherWord[] {
  const words = wordsIn(language)
  const others = [english, ...Object.values(wordings).map((those) => those!)]
  return words ? wordEdits(source, bySaid(words, others), false) : []
}

function wordEdits(
  source: string,
  words: ReadonlyMap<string, string> | null,
  isRightToLeft: boolean,
): OtherWord[] {
  const edits: OtherWord[] = []
  walkHtml(parseHtml(source, true).root, (node) => {
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!where) return
    if (node.nodeName === '#text' && 'value' in node) {
      const said = words?.get(node.value.trim())
      const start = where.startOffset + source.slice(where.startOffset, where.endOffset).search(/\S/)
      if (said !== undefined)
        edits.push({
          word: node.value.trim(),
          start,
          end: start + node.value.trim().length,
          text: escapeText(said),
        })
    }
    if (!('tagName' in node)) return
    const tag = node.sourceCodeLocation?.startTag
    const says = (name: string) => node.attrs.some((one) => one.name === name)
    if (node.tagName === 'html' && tag && isRightToLeft && !says('dir')) {
      const at = attributePlace(node, 'lang')?.endOffset ?? tag.startOffset + '<html'.length
      edits.push({ word: '', start: at, end: at, text: ' dir="rtl"' })
    }
    const label = attributePlace(node, 'aria-label')
    const word = node.attrs.find(({ name }) => name === 'aria-label')?.value ?? ''
    const said = words?.get(word)
    const range = label && said !== undefined ? attributeValueRange(source, label) : null
    if (range?.quoted) edits.push({ word, start: range.start, end: range.end, text: escapeAttribute(said!) })
  })
  return edits.sort((a, b) => a.start - b.start)
}
