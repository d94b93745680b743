import { randomUUID } from 'node:crypto'
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
import { broughtFile, type FileToRead } from './brought-file'
import { compareShared } from './compare-shared'
import { MadeTexts, type TextChunk } from './made-texts'
import { sourcesOf } from './sources'

export interface UnderstandTask {
  readonly name: string
  readonly choices: BringingChoices
  /** The site that they join, and the sources of its templates; null for a new one. */
  readonly into: (Into & { readonly texts: readonly (readonly [Hash, string])[] }) | null
  readonly year: number
  /** Where it asks for files, tells how far it is, and gives texts. */
  readonly port: MessagePort
}

/** What is said on the way. Whatever is large comes and goes in portions, so that nobody holds it twice. */
export type FromThread =
  | { readonly kind: 'progress'; readonly done: number; readonly all: number }
  /** Asks for files. */
  | { readonly kind: 'files' }
  /** Texts that were made. */
  | { readonly kind: 'texts'; readonly texts: TextChunk }

/** What a thread is answered: files that it asked for, none after the last; or that texts were taken. */
export type ToThread = readonly FileToRead[] | null

export type UnderstandAnswer =
  | { readonly refusal: string }
  | {
      readonly site: Site
      readonly templates: readonly FoundTemplate[]
      readonly remarks: readonly Remark[]
      /** What is told of how files are written, by where they came from. */
      readonly ofFiles: readonly Remark[]
      readonly compared: readonly ComparedPage[]
      /** Of pages that join a site: the change they are, and what the site has already. */
      readonly joining: {
        readonly change: BringIn
        readonly same: readonly SamePage[]
        /** Where each page stood. */
        readonly paths: readonly (readonly [string, string])[]
      } | null
    }

const ask = (
  port: MessagePort,
  message: FromThread,
  transfer: readonly ArrayBuffer[] = [],
): Promise<ToThread> =>
  new Promise((resolve) => {
    port.once('message', resolve)
    port.postMessage(message, transfer)
  })

/** The files that wait, with what is told of how they are written. */
async function readFiles(port: MessagePort): Promise<{ files: BroughtFile[]; ofFiles: Remark[] }> {
  const files: BroughtFile[] = []
  const ofFiles: Remark[] = []
  for (;;) {
    const some = await ask(port, { kind: 'files' })
    if (some === null) return { files, ofFiles }
    for (const one of some) {
      const { file, remark } = broughtFile(one)
      files.push(file)
      if (remark) ofFiles.push(remark)
    }
  }
}

async function giveTexts(port: MessagePort, made: MadeTexts): Promise<void> {
  for (const texts of made.take()) await ask(port, { kind: 'texts', texts }, [texts.bytes.buffer])
}

/** Understands a site and compares what would come out. Runs in a thread of its own, which may be ended. */
export default async function run({
  name,
  choices,
  into,
  year,
  port,
}: UnderstandTask): Promise<UnderstandAnswer> {
  const { files, ofFiles } = await readFiles(port)
  const made = new MadeTexts()
  const aside = new MadeTexts()
  // Each page is read, and compared in the end; what they share is found in between.
  const all = 2 * files.filter(({ kind }) => kind === 'page').length
  let done = 0
  const tellOne = () => {
    if (++done % 10 === 0) port.postMessage({ kind: 'progress', done, all } satisfies FromThread)
  }
  const tools: BringingTools = {
    newId: randomUUID,
    put: (text) => made.put(text),
    sizeOf: (text) => Buffer.byteLength(text),
    // Packed, they wait for their turn in a fifth of what they are.
    aside: (text) => {
      const hash = aside.put(text)
      return () => aside.get(hash)!
    },
    onPage: tellOne,
  }
  // Style sheets that stay as they are have a text of their own already.
  const given = new Map([
    ...files.flatMap(({ kind, hash, text }) =>
      kind === 'page' || text === undefined ? [] : [[hash, text] as const],
    ),
    ...(into?.texts ?? []),
  ])
  const textOf = (hash: Hash) => made.get(hash) ?? given.get(hash) ?? ''
  const sources = sourcesOf(textOf, year)
  if (into) {
    const joined = joinSite(files, name, into, tools, sources)
    files.length = 0
    if ('refusal' in joined) return joined
    const { site, templates, remarks, change, same, pages, base } = joined
    // What is put into another frame comes out otherwise by its author's wish.
    const compared = into.frame === 'own' ? await compareShared(joined, sources, tellOne) : []
    const paths = pages.map(({ id, path }) => [id, base + path] as const)
    await giveTexts(port, made)
    return { site, templates, remarks, ofFiles, compared, joining: { change, same, paths } }
  }
  const understood = understand(files, name, choices, tools)
  // What stands in them is known by now, and put aside.
  files.length = 0
  if ('refusal' in understood) return understood
  const { site, templates, remarks } = understood
  const compared = await compareShared(understood, sources, tellOne)
  await giveTexts(port, made)
  return { site, templates, remarks, ofFiles, compared, joining: null }
}
