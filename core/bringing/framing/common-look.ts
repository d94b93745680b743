import type { HtmlAttribute } from '#core/markup'
import { type Attributes, type GeneratedPart, marks } from '#core/template'
import type { LinkLook } from '../reading/outline'

/** How the links of an element look on all pages that have it. */
export class CommonLook {
  /** What it is called; null of a line among other things. */
  readonly tagName: string | null
  readonly attributes: readonly HtmlAttribute[]
  readonly isLine: boolean
  /** By what of them; false where pages differ in it. */
  readonly #said = new Map<keyof LinkLook, string | false>()

  constructor(tagName: string | null, attributes: readonly HtmlAttribute[], isLine: boolean) {
    this.tagName = tagName
    this.attributes = attributes
    this.isLine = isLine
  }

  /** Adds how they look on a page: what nothing tells there is as it is elsewhere. */
  add(look: LinkLook): void {
    for (const [what, value] of Object.entries(look) as [keyof LinkLook, string | null][]) {
      if (value === null) continue
      const before = this.#said.get(what)
      this.#said.set(what, before === undefined || before === value ? value : false)
    }
  }

  /** Whether a line is one on every page: a list is, in whatever way its links look. */
  get isOne(): boolean {
    return !this.isLine || ![...this.#said.values()].includes(false)
  }

  /** What tells a part how to look like it, the attributes that pass on to its element among them. */
  ofPart({ name, list }: GeneratedPart): Attributes {
    const said = (what: keyof LinkLook) => this.#said.get(what) || undefined
    const told = (what: keyof LinkLook) => this.#said.get(what) as string | false | undefined
    const mark = said('mark')
    const isMarked = mark !== undefined && mark !== 'a' && marks.includes(mark)
    const [linkClass, itemClass] = [said('linkClass'), said('itemClass')]
    const [ownClass, ownItemClass] = [told('ownClass'), told('ownItemClass')]
    /** The page's own, where it is not as without a word. */
    const own = (value: string | false | undefined, usual: string | undefined) =>
      typeof value === 'string' && value !== (usual ?? '') ? value : undefined
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
        ['link-class', linkClass],
        ['own-class', own(ownClass, isMarked ? undefined : linkClass)],
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
