import type {
  HtmlAttribute,
  HtmlChild,
  HtmlComment,
  HtmlElement,
  HtmlParent,
  HtmlPlace,
  HtmlText,
  Span,
} from '../tree'

// Nodes of one shape each, which are quick to make and to read.

export class Place implements HtmlPlace {
  endTag: Span | undefined = undefined
  constructor(
    readonly startOffset: number,
    public endOffset: number,
    readonly startTag: Span,
  ) {}
}

export class Element implements HtmlElement {
  readonly nodeName: string
  readonly childNodes: HtmlChild[] = []
  parentNode: HtmlParent | null = null
  constructor(
    readonly tagName: string,
    readonly namespaceURI: string,
    readonly attrs: HtmlAttribute[],
    public sourceCodeLocation: Place | undefined,
  ) {
    this.nodeName = tagName
  }
}

export class Text implements HtmlText {
  readonly nodeName = '#text'
  constructor(
    public value: string,
    public parentNode: HtmlParent | null,
    public sourceCodeLocation: Span,
  ) {}
}

export class Comment implements HtmlComment {
  readonly nodeName = '#comment'
  constructor(
    readonly data: string,
    public parentNode: HtmlParent | null,
    readonly sourceCodeLocation: Span,
  ) {}
}
