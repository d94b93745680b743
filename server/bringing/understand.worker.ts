import { createHash, randomUUID } from 'node:crypto'
import {
  type BringingChoices,
  type BroughtFile,
  compareBrought,
  type ComparedPage,
  understand,
} from '#core/bringing'
import type { FoundTemplate, Remark } from '#core/bringing'
import { type HtmlFacts, readHtml } from '#core/markup'
import type { Hash, Site } from '#core/site'

export interface UnderstandTask {
  readonly files: readonly BroughtFile[]
  readonly name: string
  readonly choices: BringingChoices
  readonly year: number
}

export type UnderstandAnswer =
  | { readonly refusal: string }
  | {
      readonly site: Site
      /** Texts that were made, by what names them. */
      readonly texts: readonly (readonly [Hash, string])[]
      readonly templates: readonly FoundTemplate[]
      readonly remarks: readonly Remark[]
      readonly compared: readonly ComparedPage[]
    }

/** Understands a site and compares what would come out. Runs in a thread of its own, which may be ended. */
export default function run({ files, name, choices, year }: UnderstandTask): UnderstandAnswer {
  const texts = new Map<Hash, string>()
  const put = (text: string): Hash => {
    const hash = createHash('sha256').update(text).digest('hex')
    texts.set(hash, text)
    return hash
  }
  const understood = understand(files, name, choices, {
    newId: randomUUID,
    put,
    sizeOf: (text) => Buffer.byteLength(text),
  })
  if ('refusal' in understood) return understood
  // Style sheets that stay as they are have a text of their own already.
  const given = new Map(
    files.flatMap(({ hash, text }) => (text === undefined ? [] : [[hash, text] as const])),
  )
  const textOf = (hash: Hash) => texts.get(hash) ?? given.get(hash) ?? ''
  const facts = new Map<Hash, HtmlFacts>()
  const factsOf = (hash: Hash): HtmlFacts => {
    const known = facts.get(hash) ?? readHtml(textOf(hash))
    facts.set(hash, known)
    return known
  }
  const { site, templates, remarks } = understood
  const compared = compareBrought(understood, { textOf, factsOf, year })
  return { site, texts: [...texts], templates, remarks, compared }
}
