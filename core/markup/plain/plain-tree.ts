import { foreignContent, html, type Token } from 'parse5'
import type { HtmlAttribute, HtmlDocument, HtmlFragment } from '../tree'
import { resolved } from './character-references'
import { boundsItems, implied, impliedInText, kindOf, ofHead } from './elements'
import { leave } from './not-plain'
import type { Element } from './nodes'
import { Comment, Text } from './nodes'
import { OpenElements } from './open-elements'
import { At, isSpace } from './scanner'

const sections = /^(?:tbody|thead|tfoot)$/
const cells = /^(?:td|th|caption)$/
const labels = /^(?:title|desc)$/
/** Elements of a drawing whose content is no drawing, or that are read otherwise elsewhere. */
const notDrawn = /^(?:foreignobject|script|style|svg|math|a|title|desc)$/

/** Builds the tree of a text from its tags (HTML §13.2.6), as far as all of them are where they should be. */
export class PlainTree extends OpenElements {
  /** After the end tags of the body (1) and of the document (2). */
  #ended = 0
  #hasHead = false
  readonly #isQuirky: boolean

  /** @param root empty, or a document as far as its doctype or its first tag, after which reading begins */
  constructor(
    text: string,
    readonly root: HtmlDocument | HtmlFragment,
  ) {
    super(text)
    this.#isQuirky = 'mode' in root && root.mode === 'quirks'
    const mode = root.nodeName === '#document' ? 'top' : 'body'
    this.open.push({ element: root, name: '', mode, hasParagraph: false })
    const last = root.childNodes[root.childNodes.length - 1]
    if (last?.nodeName === 'html') this.push(last as Element, 'html', 'top')
  }

  /** Reads from where it is to the end. */
  read(): void {
    const { text } = this
    while (this.at < text.length) {
      const from = this.at
      const next = text.indexOf('<', from)
      const to = next < 0 ? text.length : next
      if (to > from) this.#text(from, to)
      this.at = to
      if (next < 0) break
      const code = text.charCodeAt(to + 1)
      if (code === 0x2f) this.#endTag(to)
      else if (code === 0x21) this.#comment(to)
      else {
        this.at = to + 1
        this.#startTag(to, this.tagName())
      }
    }
    this.#end()
  }

  /** What is open at the end ends there (HTML §13.2.7), as far as it needs no end tag. */
  #end(): void {
    this.#expectNoneLeft()
    const end = this.text.length
    for (let at = this.open.length - 1; at > 0; at--) {
      const { sourceCodeLocation: place } = this.open[at]!.element as Element
      if (place && !place.endTag) place.endOffset = end
    }
  }

  /** Whether nothing is open but what needs no end tag. */
  #expectNoneLeft(): void {
    const from = this.root.nodeName === '#document' ? 3 : 1
    if (this.root.nodeName === '#document' && this.open[2]?.name !== 'body') leave()
    for (let at = from; at < this.open.length; at++) if (!implied.has(this.open[at]!.name)) leave()
  }

  #text(from: number, to: number): void {
    const { mode } = this.top
    const holdsText = mode === 'body' || mode === 'select' || mode === 'drawing' || mode === 'label'
    if (!holdsText || this.#ended > 0) {
      this.at = from
      this.skipSpaces()
      if (this.at < to) leave()
    }
    // Before a head it is not there.
    if (mode === 'top' && !this.#hasHead) return
    this.addText(resolved(this.text.slice(from, to)), from, to)
  }

  #comment(start: number): void {
    if (!this.text.startsWith('--', start + 2)) leave()
    this.at = start + 4
    const data = this.comment()
    const parent = this.#ended > 0 ? this.open[2 - this.#ended]!.element : this.top.element
    parent.childNodes.push(new Comment(data, parent, new At(start, this.at)))
  }

  #startTag(start: number, name: string): void {
    if (this.#ended > 0) leave()
    switch (this.top.mode) {
      case 'body':
        return this.#inBody(start, name)
      case 'top':
        return this.#atTop(start, name)
      case 'head':
        return ofHead.has(name) ? this.#inBody(start, name) : leave()
      case 'select':
        return this.#inSelect(start, name)
      case 'drawing':
        return this.#inDrawing(start, name)
      case 'label':
        return leave()
      default:
        return /^(?:script|style)$/.test(name) && this.top.mode !== 'columns'
          ? this.#inBody(start, name)
          : this.#inTable(start, name)
    }
  }

  #atTop(start: number, name: string): void {
    const attrs = this.attributes()
    if (this.isSelfClosing) leave()
    const isFirst = this.open.length === 1
    if (name !== (isFirst ? 'html' : this.#hasHead ? 'body' : 'head')) leave()
    this.push(this.put(name, attrs, start), name, name === 'html' ? 'top' : name)
    this.#hasHead ||= name === 'head'
  }

  #inBody(start: number, name: string): void {
    const kind = kindOf(name)
    if (kind === 'other') leave()
    if (kind === 'part') {
      this.#endCell(start)
      return this.#inTable(start, name)
    }
    const attrs = this.attributes()
    if (this.isSelfClosing && kind !== 'void' && kind !== 'rule' && kind !== 'drawing') leave()
    switch (kind) {
      case 'void':
        return void this.put(name, attrs, start)
      case 'rule':
        this.popParagraph(start)
        return void this.put(name, attrs, start)
      case 'raw':
      case 'escapable':
        return this.#textOf(this.put(name, attrs, start), name, kind === 'escapable')
      case 'drawing': {
        const element = this.#adjusted(name, attrs, start)
        if (!this.isSelfClosing) this.push(element, name, 'drawing')
        return
      }
      case 'block':
      case 'pre':
        this.popParagraph(start)
        break
      case 'heading':
        this.popParagraph(start)
        if (kindOf(this.top.name) === 'heading') leave()
        break
      case 'form':
        this.popParagraph(start)
        this.countSingle(name)
        break
      case 'single':
        this.countSingle(name)
        break
      case 'item':
        this.#endItem(start, name)
        this.popParagraph(start)
        break
      case 'table':
        // Browsers of old keep a table in its paragraph; the standard's rules for writers do not.
        if (this.#isQuirky && this.top.hasParagraph) leave()
        this.popParagraph(start)
        break
      case 'option':
        if (this.top.name === 'option') this.pop(start)
        break
      case 'ruby':
        this.popImplied(start)
        if (this.top.name !== 'ruby') leave()
        break
    }
    const mode = kind === 'table' ? 'table' : kind === 'select' ? 'select' : 'body'
    this.push(this.put(name, attrs, start), name, mode)
    if (kind === 'pre') this.#skipBreak()
  }

  /** An item ends the one before it, whatever of it is still open. */
  #endItem(start: number, name: string): void {
    for (let at = this.open.length - 1; at > 0; at--) {
      const open = this.open[at]!.name
      if (open === name || (name !== 'li' && (open === 'dd' || open === 'dt'))) {
        this.popImplied(start, open)
        if (this.open.length - 1 !== at) leave()
        return this.pop(start)
      }
      if (boundsItems.has(open)) return
    }
  }

  /** The first line break of an element that shows its text as it is written is not there (HTML §13.1.2.5). */
  #skipBreak(): void {
    const { text, at: from } = this
    // Whether a character reference is such a break, or stands behind one, is rare.
    if (/^\n?&/.test(text.slice(from, from + 2))) leave()
    if (text.charCodeAt(from) !== 0x0a) return
    this.at = from + 1
    if (!isSpace(text.charCodeAt(this.at))) return
    // White space that follows is one with it: it stands where that does.
    const next = text.indexOf('<', this.at)
    const to = next < 0 ? text.length : next
    this.addText(resolved(text.slice(this.at, to)), from, to)
    this.at = to
  }

  /** Reads an element whose text holds no tags. */
  #textOf(element: Element, name: string, isEscapable: boolean): void {
    const { text } = this
    let from = this.at
    let start = from
    this.toEndTagOf(name)
    const to = this.at
    if (name === 'script' && text.slice(from, to).includes('<!--')) leave()
    if (name === 'textarea') {
      if (/^\n?&/.test(text.slice(from, from + 2))) leave()
      if (text.charCodeAt(from) === 0x0a && ++from < to && !isSpace(text.charCodeAt(from))) start = from
    }
    if (from < to) {
      const value = text.slice(from, to)
      element.childNodes.push(new Text(isEscapable ? resolved(value) : value, element, new At(start, to)))
    }
    this.at = to + 2 + name.length
    this.endOfEndTag()
    const place = element.sourceCodeLocation!
    place.endTag = new At(to, this.at)
    place.endOffset = this.at
  }

  /** An element of a drawing, its names written as SVG has them (HTML §13.2.6.1). */
  #adjusted(name: string, attrs: HtmlAttribute[], start: number): Element {
    const token = { tagName: name, tagID: html.getTagID(name), attrs } as unknown as Token.TagToken
    if (name !== 'svg') {
      if (foreignContent.causesExit(token)) leave()
      foreignContent.adjustTokenSVGTagName(token)
    }
    foreignContent.adjustTokenSVGAttrs(token)
    foreignContent.adjustTokenXMLAttrs(token)
    return this.put(token.tagName, attrs, start, html.NS.SVG)
  }

  #inDrawing(start: number, name: string): void {
    const isLabel = labels.test(name)
    if (!isLabel && notDrawn.test(name)) leave()
    const element = this.#adjusted(name, this.attributes(), start)
    if (!this.isSelfClosing) this.push(element, name, isLabel ? 'label' : 'drawing')
  }

  #inSelect(start: number, name: string): void {
    if (name !== 'option' && name !== 'optgroup') leave()
    const attrs = this.attributes()
    if (this.isSelfClosing) leave()
    if (this.top.name === 'option') this.pop(start)
    if (name === 'optgroup' && this.top.name === 'optgroup') this.pop(start)
    this.push(this.put(name, attrs, start), name, 'select')
  }

  /** Ends the cell, or the caption, in which a part of its table begins. */
  #endCell(start: number): void {
    this.popImplied(start)
    if (!cells.test(this.top.name)) leave()
    this.pop(start)
  }

  #inTable(start: number, name: string): void {
    if (kindOf(name) !== 'part') leave()
    const attrs = this.attributes()
    if (this.isSelfClosing && name !== 'col') leave()
    if (name === 'col') {
      if (this.top.mode !== 'columns') {
        this.#backToTable(start)
        this.pushAdded('colgroup', 'columns')
      }
      return void this.put(name, attrs, start)
    }
    const isCell = name === 'td' || name === 'th'
    if (isCell && this.top.mode !== 'row') leave()
    if (name === 'tr') {
      if (this.top.mode === 'row' || this.top.mode === 'columns') this.pop(start)
      if (this.top.mode === 'table') this.pushAdded('tbody', 'section')
    } else if (!isCell) this.#backToTable(start)
    const mode =
      name === 'tr' ? 'row' : sections.test(name) ? 'section' : name === 'colgroup' ? 'columns' : 'body'
    this.push(this.put(name, attrs, start), name, mode)
  }

  /** Ends the rows and sections that are open in a table. */
  #backToTable(start: number): void {
    while (this.top.mode !== 'table') this.pop(start)
  }

  #endTag(start: number): void {
    this.at = start + 2
    const name = this.tagName()
    this.endOfEndTag()
    if (name === 'body' || name === 'html') return this.#endOfDocument(start, name)
    if (this.#ended > 0) leave()
    const { mode } = this.top
    const kind = kindOf(name)
    if (mode === 'drawing' || mode === 'label') {
      if (this.top.name !== name) leave()
      return this.popWritten(start)
    }
    if (mode === 'select') {
      if (name === 'optgroup' && this.top.name === 'option') this.pop(start)
      if (name === 'select') this.popImplied(start)
    } else if (mode === 'table' || mode === 'section' || mode === 'row' || mode === 'columns')
      this.#endInTable(start, name)
    else if (kind === 'table' || (kind === 'part' && !cells.test(name))) {
      // What ends a table, or a part of it, ends the cell in which it stands.
      this.#endCell(start)
      this.#endInTable(start, name)
    } else if (kind === 'formatting' || name === 'a' || name === 'nobr') {
      // Nothing is ended on the way.
    } else if (kind === 'item' || name === 'p') this.popImplied(start, name)
    else {
      const isText = kind === undefined || kind === 'option' || kind === 'ruby'
      this.popImplied(start, name, isText ? impliedInText : implied)
    }
    if (this.top.name !== name) leave()
    this.popWritten(start)
  }

  /** Ends what is open in a table within what is ended. */
  #endInTable(start: number, name: string): void {
    if (name === 'colgroup' || name === 'tr') return
    if (sections.test(name)) {
      if (this.top.mode === 'row') this.pop(start)
    } else if (name === 'table') this.#backToTable(start)
    else leave()
  }

  #endOfDocument(start: number, name: 'body' | 'html'): void {
    if (this.root.nodeName !== '#document') leave()
    if (this.#ended !== (name === 'body' ? 0 : 1)) leave()
    this.#expectNoneLeft()
    this.#ended++
    const { sourceCodeLocation: place } = this.open[name === 'body' ? 2 : 1]!.element as Element
    place!.endTag = new At(start, this.at)
    place!.endOffset = this.at
  }
}
