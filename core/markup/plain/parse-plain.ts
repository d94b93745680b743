import type { HtmlDoctype, HtmlDocument, HtmlFragment } from '../tree'
import { notPlain } from './not-plain'
import { PlainTree } from './plain-tree'
import { At } from './scanner'

/** Where the first tag of a document ends, if it is one of `html`, whatever is declared and noted in front of it. */
function firstTagEnd(text: string): number | null {
  for (let at = 0; ;) {
    at += /^[ \t\n\f]*/.exec(text.slice(at, at + 1_000))![0].length
    const sign = text.slice(at, at + 6).toLowerCase()
    const isDeclared = sign.startsWith('<!') || sign.startsWith('<?')
    const isNoted = sign.startsWith('<!--')
    if (sign.trim() === '' || (!isDeclared && !/^<html[\s>]/.test(sign))) return null
    const end = text.indexOf(isNoted ? '-->' : '>', at)
    if (end < 0) return null
    at = end + (isNoted ? 3 : 1)
    if (!isDeclared) return at
  }
}

/** A document as they begin today. */
const modern = /^<!doctype html>/i

/** A document whose first tag is still to be read. */
function begun(end: number): HtmlDocument {
  const document: HtmlDocument = { nodeName: '#document', mode: 'no-quirks', childNodes: [] }
  const names = { name: 'html', publicId: '', systemId: '' }
  const doctype: HtmlDoctype = {
    ...{ nodeName: '#documentType', ...names, parentNode: document, sourceCodeLocation: new At(0, end) },
  }
  document.childNodes.push(doctype)
  return document
}

/**
 * The tree of a text in which everything is where it should be, as the whole parser makes it, in a fraction of the time; null
 * for any other: with an error of HTML §13.2.2, elements that overlap, end tags that are missing where they have to be
 * written, and what is rare.
 * @param openDocument reads the beginning of a document; null for a piece of one
 */
export function parsePlain(
  text: string,
  openDocument: ((opening: string) => HtmlDocument | null) | null,
): HtmlDocument | HtmlFragment | null {
  try {
    if (openDocument === null) {
      const tree = new PlainTree(text, { nodeName: '#document-fragment', childNodes: [] })
      tree.read()
      return tree.root
    }
    const doctype = modern.exec(text)?.[0]
    const end = doctype?.length ?? firstTagEnd(text)
    const document = end && (doctype ? begun(end) : openDocument(text.slice(0, end)))
    if (!document) return null
    const tree = new PlainTree(text, document)
    tree.at = end
    tree.read()
    return tree.root
  } catch (error) {
    if (error === notPlain) return null
    throw error
  }
}
