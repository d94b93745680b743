import type { HtmlAttribute } from '#core/markup'
import { type Attributes, type GeneratedPart, marks } from '#core/template'
import type { LinkLook } from '../reading/outline'

/** Whether the entries that look otherwise than the others, if any do, are some that are known. */
export const marksThose = ({ others }: LinkLook, known: readonly string[]): boolean =>
  others.length === 0 || (others.length === known.length && others.every((id) => known.includes(id)))

/** What is said of how they look. */
type Said = Exclude<keyof LinkLook, 'others'>

/** How entries are written: null what is as the others are. */
export interface EntryPattern {
  readonly each: string
  readonly own: string | null
  readonly above: string | null
  /** What stands between every two, with the white space around it. */
  readonly between: string
}

/** How the links of an element look on all pages that have it. */
export class CommonLook {
  /** What it is called; null of a line among other things. */
  readonly tagName: string | null
  readonly attributes: readonly HtmlAttribute[]
  readonly isLine: boolean
  /** By what of them; false where pages differ in it. */
  readonly #said = new Map<Said, string | false>()

  constructor(tagName: string | null, attributes: readonly HtmlAttribute[], isLine: boolean) {
    this.tagName = tagName
    this.attributes = attributes
    this.isLine = isLine
  }

  /**
   * Adds how they look on a page: what nothing tells there is as it is elsewhere.
   * @param above those of its entries that are pages above it
   */
  add(all: LinkLook, above: readonly string[] = []): void {
    const { others: _, ...look } = all
    const isAbove = marksThose(all, above)
    const ofAbove = { aboveClass: null, aboveItemClass: null, abovePattern: null }
    // Where others than those above look otherwise, nothing is told of any.
    const told = isAbove
      ? { ...look, ...(above.length === 0 && ofAbove) }
      : { ...look, linkClass: null, itemClass: null, pattern: null, ...ofAbove }
    if (!isAbove && above.length > 0)
      for (const what of ['aboveClass', 'aboveItemClass', 'abovePattern'] as const)
        this.#said.set(what, false)
    for (const [what, value] of Object.entries(told) as [Said, string | null][]) {
      if (value === null) continue
      const before = this.#said.get(what)
      this.#said.set(what, before === undefined || before === value ? value : false)
    }
  }

  /** Whether a line is one on every page: a list is, in whatever way its links look. */
  get isOne(): boolean {
    return !this.isLine || ![...this.#said.values()].includes(false)
  }

  /** What is said of how entries are written that are more than a link; null of links alone. */
  get pattern(): EntryPattern | null {
    const said = (what: Said) => this.#said.get(what) || null
    const each = said('pattern')
    if (each === null) return null
    const [own, above] = [said('ownPattern'), said('abovePattern')]
    return {
      each,
      own: own === each ? null : own,
      above: above === each ? null : above,
      between: said('between') ?? '',
    }
  }

  /** What tells a part how to look like it, the attributes that pass on to its element among them. */
  ofPart({ name, list, marksAbove }: GeneratedPart): Attributes {
    const said = (what: Said) => this.#said.get(what) || undefined
    const told = (what: Said) => this.#said.get(what) as string | false | undefined
    const mark = said('mark')
    const isMarked = mark !== undefined && mark !== 'a' && marks.includes(mark)
    const [linkClass, itemClass] = [said('linkClass'), said('itemClass')]
    const [ownClass, ownItemClass] = [told('ownClass'), told('ownItemClass')]
    /** The page's own, where it is not as without a word. */
    const own = (value: string | false | undefined, usual: string | undefined) =>
      typeof value === 'string' && value !== (usual ?? '') ? value : undefined
    const above = (what: 'aboveClass' | 'aboveItemClass', usual: string | undefined) =>
      marksAbove ? own(told(what), usual) : undefined
    const between = this.#said.get('between')
    const as = this.#element(list)
    const passed = this.attributes.filter(
      (one) => !(as === 'nav as usual' && one.name === 'class' && one.value === name),
    )
    return Object.fromEntries(
      [
        ['between', between === false ? undefined : between],
        ['as', as === 'nav as usual' ? undefined : as],
        ['mark', isMarked ? mark : undefined],
        ['list-class', as === 'list' ? undefined : said('listClass')],
        ['item-class', itemClass],
        ['own-item-class', own(ownItemClass, itemClass)],
        ['above-item-class', above('aboveItemClass', itemClass)],
        ['link-class', linkClass],
        ['own-class', own(ownClass, isMarked ? undefined : linkClass)],
        ['above-class', above('aboveClass', linkClass)],
        ...passed.map(({ name, value }) => [name, value] as const),
      ].filter((one): one is [string, string] => one[1] !== undefined),
    )
  }

  /** What a part says that its element is. */
  #element(list: GeneratedPart['list']): string | undefined {
    const { tagName, isLine } = this
    if (isLine) return tagName ?? undefined
    // A part without a word is a `nav`, with a class of its own where none is said.
    if (tagName === 'nav')
      return this.attributes.some(({ name }) => name === 'class') ? 'nav as usual' : 'nav'
    return tagName === list ? 'list' : undefined
  }
}
