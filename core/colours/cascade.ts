import { tableOf } from '#core/site'
import { attributeOf, type HtmlElement } from '#core/markup'
import type { Matched, RuleIndex } from './matching'
import { legacyShade, type Shade } from './shades'
import { type Declared, inlineDeclarations } from './sheet-rules'

/** What old attributes say of an element, as a style that any rule wins over (HTML §15.2, presentational hints). */
export interface Hints {
  readonly colour?: Shade
  readonly ground?: Shade
  readonly hasPicture?: boolean
  readonly fontSize?: string
}

/** What wins for an element, by property; a shorthand stands under each property that it says. */
export type Winning = ReadonlyMap<string, Declared>

const shorthands = tableOf<readonly string[]>({
  background: ['background-color', 'background-image', 'background-clip'],
  font: ['font-family', 'font-size', 'font-weight'],
})

interface Candidate extends Omit<Matched, 'declared'> {
  readonly declared: Declared
}

/** Whether one declaration wins over another (CSS Cascade 5 §6.1); layers turn round for what is important. */
function wins(one: Candidate, other: Candidate): boolean {
  if (one.declared.isImportant !== other.declared.isImportant) return one.declared.isImportant
  if (one.layer !== other.layer) return one.layer > other.layer !== one.declared.isImportant
  if (one.specificity !== other.specificity) return one.specificity > other.specificity
  return one.order >= other.order
}

/** Inline styles win over every selector, and stand in no layer. */
const inline = { specificity: 0x1000000, layer: Number.MAX_SAFE_INTEGER, order: Number.MAX_SAFE_INTEGER }

export function winningFor(element: HtmlElement, rules: RuleIndex): Winning {
  const best = new Map<string, Candidate>()
  const add = (declared: Declared, of: Omit<Matched, 'declared'>) => {
    const candidate: Candidate = {
      declared,
      ...{ specificity: of.specificity, order: of.order },
      // An important inline style wins over important ones of any layer.
      layer: of === inline && declared.isImportant ? -1 : of.layer,
    }
    for (const property of shorthands[declared.property] ?? [declared.property]) {
      const known = best.get(property)
      if (!known || wins(candidate, known)) best.set(property, candidate)
    }
  }
  for (const matched of rules.rulesOf(element))
    for (const declared of matched.declared) add(declared, matched)
  const style = element.attrs.find(({ name }) => name === 'style')?.value
  if (style) for (const declared of inlineDeclarations(style)) add(declared, inline)
  return new Map([...best].map(([property, { declared }]) => [property, declared]))
}

const fontSizes = ['', 'x-small', 'small', 'medium', 'large', 'x-large', 'xx-large', 'xxx-large']

/** The size that `font size` says (HTML §15.3.3, rules for parsing a legacy font size). */
function legacyFontSize(value: string): string | undefined {
  const match = /^\s*([+-]?)(\d+)/.exec(value)
  if (!match) return undefined
  const amount = Number(match[2])
  const size = match[1] === '+' ? 3 + amount : match[1] === '-' ? 3 - amount : amount
  return fontSizes[Math.min(7, Math.max(1, size))]
}

const withGround = /^(body|table|thead|tbody|tfoot|tr|td|th)$/

/** What attributes of an element say of its colours; `body` tells those of links. */
export function hintsOf(element: HtmlElement, body: HtmlElement | null): Hints {
  const { tagName } = element
  const shadeIn = (of: HtmlElement, name: string) => {
    const value = attributeOf(of, name)
    return value === undefined ? null : legacyShade(value)
  }
  const colour =
    tagName === 'body'
      ? shadeIn(element, 'text')
      : tagName === 'font'
        ? shadeIn(element, 'color')
        : tagName === 'a' && body && attributeOf(element, 'href') !== undefined
          ? shadeIn(body, 'link')
          : null
  const ground = withGround.test(tagName) ? shadeIn(element, 'bgcolor') : null
  const picture = withGround.test(tagName) && Boolean(attributeOf(element, 'background'))
  const size = tagName === 'font' ? legacyFontSize(attributeOf(element, 'size') ?? '') : undefined
  return {
    ...(colour && { colour }),
    ...(ground && { ground }),
    ...(picture && { hasPicture: true }),
    ...(size !== undefined && { fontSize: size }),
  }
}
