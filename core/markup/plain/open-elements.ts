import { html } from 'parse5'
import type { HtmlAttribute, HtmlParent } from '../tree'
import { boundsParagraphs, implied } from './elements'
import { leave } from './not-plain'
import { Element, Place, Text } from './nodes'
import { At, Scanner } from './scanner'

/** What the tokens within an element mean (HTML §13.2.6.4, the insertion modes). */
export type Mode =
  'top' | 'head' | 'body' | 'table' | 'section' | 'row' | 'columns' | 'select' | 'drawing' | 'label'

/** An element that is open. */
interface Open {
  readonly element: HtmlParent
  readonly name: string
  readonly mode: Mode
  /** Whether a paragraph is open in it, or is itself, that a block would end. */
  readonly hasParagraph: boolean
}

/** Elements open at once: of more, each tag would take time with all of them. */
const deepest = 400

/** The elements that are open while a text is read (HTML §13.2.4.2), and what ends them. */
export class OpenElements extends Scanner {
  protected readonly open: Open[] = []
  /** How many are open of those that are not to stand in one another. */
  protected readonly singles = new Map<string, number>()

  protected get top(): Open {
    return this.open[this.open.length - 1]!
  }

  protected addText(value: string, from: number, to: number): void {
    const parent = this.top.element
    const last = parent.childNodes[parent.childNodes.length - 1]
    if (last instanceof Text) {
      last.value += value
      last.sourceCodeLocation = new At(last.sourceCodeLocation.startOffset, to)
    } else parent.childNodes.push(new Text(value, parent, new At(from, to)))
  }

  /** Puts an element into the one that is open. */
  protected put(
    name: string,
    attrs: HtmlAttribute[],
    start: number,
    namespace: string = html.NS.HTML,
  ): Element {
    const parent = this.top.element
    const place = new Place(start, this.at, new At(start, this.at))
    const element = new Element(name, namespace, attrs, place)
    element.parentNode = parent
    parent.childNodes.push(element)
    return element
  }

  protected push(element: Element, name: string, mode: Mode): void {
    if (this.open.length > deepest) leave()
    const within = this.top.hasParagraph
    const hasParagraph = name === 'p' || (within && !boundsParagraphs.has(name))
    this.open.push({ element, name, mode, hasParagraph })
  }

  /** One that nobody wrote. */
  protected pushAdded(name: string, mode: Mode): void {
    const element = new Element(name, html.NS.HTML, [], undefined)
    const parent = this.top.element
    element.parentNode = parent
    parent.childNodes.push(element)
    this.push(element, name, mode)
  }

  /** Ends the element that was opened last, where something else begins. */
  protected pop(at: number): void {
    const { element, name } = this.open.pop()!
    const { sourceCodeLocation: place } = element as Element
    if (place) place.endOffset = at
    const singles = this.singles.get(name)
    if (singles) this.singles.set(name, singles - 1)
  }

  /** Ends it by its own tag. */
  protected popWritten(start: number): void {
    const { sourceCodeLocation: place } = this.top.element as Element
    this.pop(this.at)
    if (place) place.endTag = new At(start, this.at)
  }

  /** Ends what needs no end tag, but for one name. */
  protected popImplied(at: number, but = '', which = implied): void {
    for (let { name } = this.top; name !== but && which.has(name); { name } = this.top) this.pop(at)
  }

  protected popParagraph(at: number): void {
    if (!this.top.hasParagraph) return
    this.popImplied(at, 'p')
    if (this.top.name !== 'p') leave()
    this.pop(at)
  }

  protected countSingle(name: string): void {
    const open = this.singles.get(name) ?? 0
    if (open > 0) leave()
    this.singles.set(name, 1)
  }
}
