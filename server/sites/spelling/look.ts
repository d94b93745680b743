import type { WordsOwner } from '#core/change'
import { languagesOf, treeOf } from '#core/plan'
import { mostBases, type Site } from '#core/site'
import { templateChoices } from '#core/template'
import { ownWords, type TextSpelling, type UnknownWord } from '#core/spelling'
import { Memory } from '#server/contents'
import { eachBatch } from '../words/batches'
import { type HeldText, linesSaid, textsHeld } from '../words/owners'
import { lookAtTexts } from './threads'

/** A word of a site that no dictionary of its language has. */
export interface SiteWord {
  readonly word: string
  readonly language: string
  /** How often it stands in the site. */
  readonly count: number
  /** In how many of its texts and lines. */
  readonly ownerCount: number
  /** Where it stands first. */
  readonly first: Pick<UnknownWord, 'line' | 'before' | 'after'> & { readonly owner: WordsOwner }
}

/** What a site says that dictionaries do not know. */
export interface SiteSpelling {
  /** Those in small letters first, which are seldom names; each by its letters. */
  readonly words: readonly SiteWord[]
  /** As many as there are, told or not. */
  readonly wordCount: number
  /** Languages that there is no dictionary of, with how many texts and lines say something in them. */
  readonly without: readonly { readonly language: string; readonly ownerCount: number }[]
  /** Texts that are too much to be looked at. */
  readonly tooHeavy: readonly WordsOwner[]
}

/** Words that are told: nobody goes through more at once. */
export const mostWordsTold = 1_000
const mostLanguagesTold = 100
/** Different words that are counted. */
const mostWordsCounted = 50_000

interface Source {
  readonly owner: WordsOwner
  readonly language: string
}

/** What was found in texts lately, by what they are, in letters: most of a site stays as it is from one look to the next. */
const known = new Memory<TextSpelling>(20_000_000)
/** What keeping a word takes beside its letters. */
const lettersOfOne = 100

const lettersOf = ({ unknown }: TextSpelling): number =>
  unknown.reduce(
    (sum, { word, before, after }) => sum + word.length + before.length + after.length + lettersOfOne,
    lettersOfOne,
  )

/**
 * Holds all that a site says against dictionaries: labels, titles and descriptions, pages and templates.
 * @param tell how many of its texts have been looked at
 */
export async function spellingOf(
  site: Site,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<SiteSpelling> {
  const sum = new SiteSum(site)
  await eachSpelling(site, signal, tell, (source, spelling) => sum.add(source, spelling))
  return sum.told()
}

/** Those of the texts and lines of a site in which a word stands that no dictionary of a language has. */
export async function ownersOfWord(
  site: Site,
  { word, language }: Pick<SiteWord, 'word' | 'language'>,
  signal: AbortSignal,
): Promise<WordsOwner[]> {
  const owners: WordsOwner[] = []
  const isIt = (one: UnknownWord) => one.word === word && one.language === language
  await eachSpelling(site, signal, () => {}, ({ owner }, spelling) => {
    if (spelling?.unknown.some(isIt)) owners.push(owner)
  }) // prettier-ignore
  return owners
}

/** @param take gets what was found in each, null where it was too much */
async function eachSpelling(
  site: Site,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
  take: (source: Source, spelling: TextSpelling | null) => void,
): Promise<void> {
  const languages = languagesOf(site)
  const pages = treeOf(site).byId
  const ofTemplates = languagesOfTemplates(site)
  const languageOf = (owner: WordsOwner): string => {
    if (owner.kind === 'template') return ofTemplates.get(owner.id) ?? site.language
    const page = owner.kind === 'page' ? pages.get(owner.id) : undefined
    return page ? languages.of(page) : site.language
  }
  const lines = linesSaid(site)
  const texts = textsHeld(site).filter(({ owner }) => owner.kind !== 'file')
  const all = texts.length
  tell(0, all)
  // Lines are told first: what they say is seen on every page that leads there.
  const said = lines.map(({ owner, is }) => ({ text: owner.was, is, language: languageOf(owner) }))
  for (let at = 0; at < lines.length; at += linesAtOnce) {
    signal.throwIfAborted()
    const spellings = await lookAtTexts(said.slice(at, at + linesAtOnce), signal)
    for (const [index, spelling] of spellings.entries()) {
      const { owner } = lines[at + index]!
      take({ owner, language: languageOf(owner) }, spelling)
    }
  }
  let done = 0
  const keyOf = ({ owner, is }: HeldText) => `${owner.was} ${is} ${languageOf(owner)}`
  const left: HeldText[] = []
  for (const held of texts) {
    const spelling = known.get(keyOf(held))
    if (!spelling) left.push(held)
    else {
      take({ owner: held.owner, language: languageOf(held.owner) }, spelling)
      tell(++done, all)
    }
  }
  await eachBatch(left, signal, async (some, read) => {
    const asked = read.map(({ text, is }, index) => ({ text, is, language: languageOf(some[index]!.owner) }))
    for (const [index, spelling] of (await lookAtTexts(asked, signal)).entries()) {
      const held = some[index]!
      if (spelling) known.set(keyOf(held), spelling, lettersOf(spelling))
      take({ owner: held.owner, language: languageOf(held.owner) }, spelling)
    }
    tell((done += some.length), all)
  })
}

const linesAtOnce = 2_000

/** The language of all pages that a template, or one that is based on it, makes; none of one that makes pages in several. */
function languagesOfTemplates(site: Site): ReadonlyMap<string, string | null> {
  const languages = languagesOf(site)
  const choices = templateChoices(site)
  const basedOn = new Map(site.templates.map((template) => [template.id, template.basedOn]))
  const known = new Map<string, string | null>()
  for (const page of site.pages) {
    const language = languages.of(page)
    let at: string | null = choices.get(page.id) ?? site.templateId
    for (let bases = 0; at !== null && bases <= mostBases; bases++) {
      const told = known.get(at)
      known.set(at, told === undefined || told === language ? language : null)
      at = basedOn.get(at) ?? null
    }
  }
  return known
}

/** Names after others, and letters with their marks among those without. */
const orderKey = ({ word, language }: SiteWord): string => {
  const letters = word.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
  return `${/^\p{Lu}/u.test(word) ? 1 : 0} ${letters} ${word} ${language}`
}

/** What was found in a whole site, put together. */
class SiteSum {
  readonly #words = new Map<string, SiteWord>()
  readonly #without = new Map<string, number>()
  readonly #tooHeavy: WordsOwner[] = []
  readonly #isOwn: (word: string) => boolean

  constructor(site: Site) {
    // Whoever writes of a site writes its name.
    this.#isOwn = ownWords([...site.ownWords, ...site.name.split(/[^\p{L}\p{M}']+/u).filter((word) => word !== '')])
  } // prettier-ignore

  add({ owner }: Source, spelling: TextSpelling | null): void {
    if (spelling === null) {
      this.#tooHeavy.push(owner)
      return
    }
    for (const language of spelling.without)
      if (this.#without.size < mostLanguagesTold || this.#without.has(language))
        this.#without.set(language, (this.#without.get(language) ?? 0) + 1)
    for (const { word, language, count, line, before, after } of spelling.unknown) {
      if (this.#isOwn(word)) continue
      const key = `${language} ${word}`
      const one = this.#words.get(key)
      if (one) this.#words.set(key, { ...one, count: one.count + count, ownerCount: one.ownerCount + 1 })
      else if (this.#words.size < mostWordsCounted)
        this.#words.set(key, { word, language, count, ownerCount: 1, first: { owner, line, before, after } })
    }
  }

  told(): SiteSpelling {
    // By keys made once: there may be tens of thousands, and everybody waits while they are put in order.
    const keyed = [...this.#words.values()].map((word) => ({ word, key: orderKey(word) }))
    keyed.sort((a, b) => (a.key < b.key ? -1 : 1))
    const words = keyed.map(({ word }) => word)
    return {
      words: words.slice(0, mostWordsTold),
      wordCount: words.length,
      without: [...this.#without].map(([language, ownerCount]) => ({ language, ownerCount })),
      tooHeavy: this.#tooHeavy.slice(0, mostWordsTold),
    }
  }
}
