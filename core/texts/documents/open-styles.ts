import { type Attributes, readXml } from './xml'

/** How deep a style can rest on others before it is taken to go round. */
const mostLevels = 20

/** What a style of text says, as much as is needed of it (ISO/IEC 26300, part 1 §16.2 and §20). */
export interface Look {
  readonly bold?: boolean
  readonly italic?: boolean
  readonly struck?: boolean
  readonly raised?: 'sup' | 'sub' | null
  /** Its level in the outline, from 1. */
  readonly level?: number
  /** What it and those that it rests on are called, in small letters. */
  readonly names: readonly string[]
}

interface Style {
  readonly above: string | undefined
  readonly display: string
  look: Omit<Look, 'names'>
}

/** Styles of a document: those that have names, and those that its program made as it was written, which rest on those. */
export class OpenStyles {
  readonly #styles = new Map<string, Style>()
  /** Of each list style the levels that are numbered. */
  readonly #numbered = new Map<string, Set<number>>()
  readonly #known = new Map<string, Look>()

  /** @param sources `styles.xml`, and then `content.xml` */
  constructor(sources: readonly string[]) {
    for (const source of sources) this.#read(source)
  }

  /** What a style comes to with all that it rests on. */
  lookOf(name: string | undefined): Look {
    const id = name ?? ''
    let known = this.#known.get(id)
    if (!known) this.#known.set(id, (known = this.#resolved(id)))
    return known
  }

  /** Whether a level of a list style has numbers. */
  isNumbered = (name: string | undefined, level: number): boolean =>
    this.#numbered.get(name ?? '')?.has(level) ?? false

  #resolved(id: string): Look {
    const chain: Style[] = []
    const names: string[] = []
    // One that a document names without having it says something all the same: what it is called.
    for (let at: string | undefined = id; at !== undefined && names.length < mostLevels;) {
      const one: Style | undefined = this.#styles.get(at)
      names.push(readable(one?.display ?? at).toLowerCase())
      if (one) chain.unshift(one)
      at = one?.above
    }
    return { ...(Object.assign({}, ...chain.map(({ look }) => look)) as Omit<Look, 'names'>), names }
  }

  #read(source: string): void {
    let style: Style | null = null
    let numbered: Set<number> | null = null
    readXml(source, {
      open: (name, attributes) => {
        if (name === 'style:style') {
          const id = attributes['style:name'] ?? ''
          const level = Number(attributes['style:default-outline-level'])
          style = {
            above: attributes['style:parent-style-name'],
            display: attributes['style:display-name'] ?? id,
            look: level >= 1 ? { level } : {},
          }
          this.#styles.set(id, style)
        } else if (name === 'style:text-properties' && style)
          style.look = { ...style.look, ...lookSaid(attributes) }
        else if (name === 'text:list-style')
          this.#numbered.set(attributes['style:name'] ?? '', (numbered = new Set()))
        else if (name === 'text:list-level-style-number' && attributes['style:num-format'] !== '')
          numbered?.add(Number(attributes['text:level']))
      },
      close(name) {
        if (name === 'style:style') style = null
        if (name === 'text:list-style') numbered = null
      },
    })
  }
}

/** A name as it is shown: programs write what is no letter as its number (`_20_`). */
const readable = (name: string) =>
  name.replace(/_([0-9a-f]{2,4})_/g, (_, code: string) => String.fromCharCode(parseInt(code, 16)))

function lookSaid(attributes: Attributes): Omit<Look, 'names'> {
  const weight = attributes['fo:font-weight']
  const slant = attributes['fo:font-style']
  const line = attributes['style:text-line-through-style'] ?? attributes['style:text-line-through-type']
  const position = attributes['style:text-position']
  return {
    ...(weight !== undefined && { bold: weight === 'bold' || Number(weight) >= 600 }),
    ...(slant !== undefined && { italic: slant === 'italic' || slant === 'oblique' }),
    ...(line !== undefined && { struck: line !== 'none' }),
    ...(position !== undefined && { raised: raisedBy(position) }),
  }
}

/** `super 58%`, `-33% 58%`, `0% 100%` (§20.384). */
function raisedBy(position: string): 'sup' | 'sub' | null {
  if (/^(super|[1-9])/.test(position)) return 'sup'
  return /^(sub|-)/.test(position) ? 'sub' : null
}
