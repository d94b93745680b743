import * as csstree from 'css-tree'

const { AtKeyword, Comment, LeftCurlyBracket, RightCurlyBracket, Semicolon, WhiteSpace } = csstree.tokenTypes
const { EOF, Function, LeftParenthesis, LeftSquareBracket, RightParenthesis, RightSquareBracket } =
  csstree.tokenTypes

/** What the parser offers the grammar of a node, as far as a block needs it. */
interface Parser {
  readonly eof: boolean
  readonly tokenType: number
  readonly tokenStart: number
  readonly source: string
  readonly consumeUntilSemicolonIncluded: unknown
  createList(): csstree.List<csstree.CssNode>
  next(): void
  eat(type: number): void
  lookupType(offset: number): number
  getLocation(start: number, end: number): csstree.CssLocation | null
  parseWithFallback(parse: () => csstree.CssNode, otherwise: () => csstree.CssNode): csstree.CssNode
  Raw(until: unknown, trims: boolean): csstree.CssNode
  Rule(): csstree.CssNode
  Declaration(): csstree.CssNode
  Atrule(isDeclaration: boolean): csstree.CssNode
}

/**
 * Whether a rule stands next in a block, and no declaration: a bracket of a rule opens before anything ends it (CSS Syntax
 * 3 §5.5.4). Custom properties may hold such brackets themselves.
 */
function isRuleNext(parser: Parser): boolean {
  if (parser.source.startsWith('--', parser.tokenStart)) return false
  for (let [ahead, depth] = [0, 0]; ; ahead++) {
    const type = parser.lookupType(ahead)
    if (type === EOF) return false
    if (type === Function || type === LeftParenthesis || type === LeftSquareBracket) depth++
    else if (type === RightParenthesis || type === RightSquareBracket) depth--
    else if (depth <= 0 && type === LeftCurlyBracket) return true
    else if (type === RightCurlyBracket || (depth <= 0 && type === Semicolon)) return false
  }
}

/** A block whose rules may have rules of their own, with `&` or without (CSS Nesting 1 §2). */
function parseBlock(this: Parser, isStyleBlock: boolean): unknown {
  const start = this.tokenStart
  const children = this.createList()
  const raw = () => this.Raw(null, true)
  const rule = () => this.parseWithFallback(this.Rule.bind(this), raw)
  const rawDeclaration = () => this.Raw(this.consumeUntilSemicolonIncluded, true)
  this.eat(LeftCurlyBracket)
  while (!this.eof && this.tokenType !== RightCurlyBracket) {
    if (this.tokenType === WhiteSpace || this.tokenType === Comment) this.next()
    else if (this.tokenType === AtKeyword)
      children.appendData(this.parseWithFallback(this.Atrule.bind(this, isStyleBlock), raw))
    else if (!isStyleBlock || isRuleNext(this)) children.appendData(rule())
    else if (this.tokenType === Semicolon) this.next()
    else {
      children.appendData(this.parseWithFallback(this.Declaration.bind(this), rawDeclaration))
      if ((this.tokenType as number) === Semicolon) this.next()
    }
  }
  if (!this.eof) this.eat(RightCurlyBracket)
  return { type: 'Block', loc: this.getLocation(start, this.tokenStart), children }
}

/** The parser's own grammar, with rules within rules as browsers read them today. */
const syntax = csstree.fork({ node: { Block: { parse: parseBlock } } })

/** Parses CSS; what cannot be read is told to `onParseError` and stays as it is written. */
export const parseCss = (css: string, options: csstree.ParseOptions): csstree.CssNode =>
  syntax.parse(css, options)
