import { createHash, randomUUID } from 'node:crypto'
import type { MessagePort } from 'node:worker_threads'
import {
  type BringingChoices,
  type BringingTools,
  type BroughtFile,
  type ComparedPage,
  type Into,
  joinSite,
  type SamePage,
  understand,
} from '#core/bringing'
import type { FoundTemplate, Remark } from '#core/bringing'
import type { BringIn } from '#core/change'
import type { Hash, Site } from '#core/site'
import { compareShared } from './compare-shared'
import { sourcesOf } from './sources'

export interface UnderstandTask {
  readonly files: readonly BroughtFile[]
  readonly name: string
  readonly choices: BringingChoices
  /** The site that they join, and the sources of its templates; null for a new one. */
  readonly into: (Into & { readonly texts: readonly (readonly [Hash, string])[] }) | null
  readonly year: number
  /** Where it tells how far it is. */
  readonly port: MessagePort
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
      /** Of pages that join a site: the change they are, and what the site has already. */
      readonly joining: {
        readonly change: BringIn
        readonly same: readonly SamePage[]
        /** Where each page stood. */
        readonly paths: readonly (readonly [string, string])[]
      } | null
    }

/** Understands a site and compares what would come out. Runs in a thread of its own, which may be ended. */
export default async function run({
  files,
  name,
  choices,
  into,
  year,
  port,
}: UnderstandTask): Promise<UnderstandAnswer> {
  const texts = new Map<Hash, string>()
  const put = (text: string): Hash => {
    const hash = createHash('sha256').update(text).digest('hex')
    texts.set(hash, text)
    return hash
  }
  // Each page is read, and compared in the end; what they share is found in between.
  const all = 2 * files.filter(({ kind }) => kind === 'page').length
  let done = 0
  const tellOne = () => {
    if (++done % 10 === 0) port.postMessage({ done, all })
  }
  const tools: BringingTools = {
    newId: randomUUID,
    put,
    sizeOf: (text) => Buffer.byteLength(text),
    onPage: tellOne,
  }
  // Style sheets that stay as they are have a text of their own already.
  const given = new Map([
    ...files.flatMap(({ hash, text }) => (text === undefined ? [] : [[hash, text] as const])),
    ...(into?.texts ?? []),
  ])
  const textOf = (hash: Hash) => texts.get(hash) ?? given.get(hash) ?? ''
  const sources = sourcesOf(textOf, year)
  if (into) {
    const joined = joinSite(files, name, into, tools, sources)
    if ('refusal' in joined) return joined
    const { site, templates, remarks, change, same, pages, base } = joined
    // What is put into another frame comes out otherwise by its author's wish.
    const compared = into.frame === 'own' ? await compareShared(joined, sources, tellOne) : []
    const paths = pages.map(({ id, path }) => [id, base + path] as const)
    return { site, texts: [...texts], templates, remarks, compared, joining: { change, same, paths } }
  }
  const understood = understand(files, name, choices, tools)
  if ('refusal' in understood) return understood
  const { site, templates, remarks } = understood
  const compared = await compareShared(understood, sources, tellOne)
  return { site, texts: [...texts], templates, remarks, compared, joining: null }
}
