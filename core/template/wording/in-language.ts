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

/** Scripts that are written from right to left (Unicode UAX #9), and languages that are usually written in one. */
const rightToLeftScripts = /^(adlm|arab|aran|hebr|mand|nkoo|rohg|samr|syrc|thaa)$/
const rightToLeftLanguages = /^(ar|arc|ckb|dv|fa|he|iw|ks|ps|sd|syr|ug|ur|yi)$/

/** Which way a language is written, by its tag (BCP 47): its script says it, else what is usual. */
export function directionOf(language: string): 'ltr' | 'rtl' {
  const [primary = '', ...more] = language.toLowerCase().split('-')
  const script = more.find((part) => /^[a-z]{4}$/.test(part))
  return (script ? rightToLeftScripts.test(script) : rightToLeftLanguages.test(primary)) ? 'rtl' : 'ltr'
}

/** The words of a language by those in English; null where they are not known, or are these. */
function wordsOf(language: string): ReadonlyMap<string, string> | null {
  const primary = language.toLowerCase().split('-')[0]!
  const words = wordings[primary === 'no' || primary === 'nn' ? 'nb' : primary]
  return words ? new Map(english.map((word, index) => [word, words[index]!])) : null
}

/**
 * A template that ships, as it is for a site in another language: what it says in English, to those who see it and to those
 * who hear it, is said in that language where it is known, and `dir` says which way that is written where it is from
 * right to left (HTML §3.2.6.4). Anything else stays as it is.
 */
export function inLanguage(source: string, language: string): string {
  const words = wordsOf(language)
  const isRightToLeft = directionOf(language) === 'rtl'
  if (!words && !isRightToLeft) return source
  const edits: TextEdit[] = []
  walkHtml(parseHtml(source, true).root, (node) => {
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (!where) return
    if (node.nodeName === '#text' && 'value' in node) {
      const said = words?.get(node.value.trim())
      const start = where.startOffset + source.slice(where.startOffset, where.endOffset).search(/\S/)
      if (said !== undefined)
        edits.push({ start, end: start + node.value.trim().length, text: escapeText(said) })
    }
    if (!('tagName' in node)) return
    const tag = node.sourceCodeLocation?.startTag
    const says = (name: string) => node.attrs.some((one) => one.name === name)
    if (node.tagName === 'html' && tag && isRightToLeft && !says('dir')) {
      const at = attributePlace(node, 'lang')?.endOffset ?? tag.startOffset + '<html'.length
      edits.push({ start: at, end: at, text: ' dir="rtl"' })
    }
    const label = attributePlace(node, 'aria-label')
    const said = words?.get(node.attrs.find(({ name }) => name === 'aria-label')?.value ?? '')
    const range = label && said !== undefined ? attributeValueRange(source, label) : null
    if (range?.quoted) edits.push({ start: range.start, end: range.end, text: escapeAttribute(said!) })
  })
  return applyEdits(
    source,
    edits.sort((a, b) => a.start - b.start),
  )
}
