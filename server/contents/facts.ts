import { type FileFacts, type FileSyntax, fileSyntaxOf, type HtmlFacts, type StyleFacts } from '#core/markup'
import { pixelBytes, type Pixels, readPixels } from '#core/pictures'
import type { Hash, SiteFile } from '#core/site'
import { readContent, readOther, readStyle } from './reading'
import { getFronts, getTexts, hashOf } from './blobs'
import { Memory } from './memory'
import { many, pool, type Queryable } from '#server/platform'

/** Bytes of facts kept in memory, about: those of a site of 10,000 pages with a dozen links each. */
const mostBytes = 48_000_000
const bytesOfRange = 120

const contents = new Memory<HtmlFacts>(mostBytes)
const styles = new Memory<StyleFacts>(mostBytes / 8)
/** By the syntax they were read in: a text can be a file of two names. */
const others = new Map<FileSyntax, Memory<FileFacts>>()
const pictures = new Memory<{ pixels: Pixels | null }>(mostBytes / 8)

const sizeOf = (facts: HtmlFacts) =>
  400 +
  bytesOfRange *
    (facts.references.length +
      facts.errors.length +
      facts.ids.length +
      facts.anchors.length +
      facts.fixed.length +
      facts.tags.length +
      facts.links.length +
      facts.pictures.length) +
  (facts.document ? (3 + facts.document.extra.length) * bytesOfRange : 0) +
  facts.notes.reduce(
    (sum, { heads }) => sum + (3 + (heads ? heads.row.length + heads.column.length : 0)) * bytesOfRange,
    0,
  ) +
  facts.runs.reduce((sum, { paragraphs }) => sum + (1 + paragraphs.length) * bytesOfRange, 0) +
  facts.headings.reduce((sum, { text }) => sum + bytesOfRange + text.length * 2, 0)

const sizeOfFile = ({ references }: FileFacts) => 100 + bytesOfRange * references.length

const sizeOfStyle = ({ references, faults }: StyleFacts) =>
  100 + bytesOfRange * (references.length + faults.length * 3)

/**
 * What was read, and how: whenever reading tells anything more or otherwise, its number goes up, since what is stored was
 * read by an earlier version.
 */
export const readAs = {
  html: 'html 25',
  css: 'css 3',
  script: 'script 2',
  data: 'data 2',
  manifest: 'manifest 2',
  drawing: 'drawing 2',
  xml: 'xml 1',
  robots: 'robots 1',
  settings: 'settings 1',
  pixels: 'pixels',
} as const

/** Texts read at a time: what is held in memory is theirs. */
const portion = 50

/**
 * Facts by key: from memory, from the table beside the contents, and for those never read by reading
 * them now.
 */
async function load<Facts, Content>(
  db: Queryable,
  hashes: Iterable<Hash>,
  {
    memory,
    keyOf,
    fetch,
    read: readOne,
    size,
    atOnce = portion,
  }: {
    memory: Memory<Facts>
    keyOf: (hash: Hash) => string
    fetch: (hashes: readonly Hash[]) => Promise<ReadonlyMap<Hash, Content>>
    read: (content: Content) => Promise<Facts>
    size: (facts: Facts) => number
    atOnce?: number
  },
): Promise<Map<Hash, Facts>> {
  const facts = new Map<Hash, Facts>()
  const missing: Hash[] = []
  for (const hash of new Set(hashes)) {
    const known = memory.get(hash)
    if (known) facts.set(hash, known)
    else missing.push(hash)
  }
  if (missing.length === 0) return facts
  const rows = await many<{ hash: string; facts: Facts }>(
    db,
    'SELECT hash, facts FROM content_facts WHERE hash = ANY($1)',
    [missing.map(keyOf)],
  )
  for (const row of rows) facts.set(row.hash.slice(-64), row.facts)
  const unread = missing.filter((hash) => !facts.has(hash))
  for (let at = 0; at < unread.length; at += atOnce) {
    const fetched = await fetch(unread.slice(at, at + atOnce))
    const read = await Promise.all(
      [...fetched].map(async ([hash, content]) => ({ hash, facts: await readOne(content) })),
    )
    for (const one of read) facts.set(one.hash, one.facts)
    if (read.length > 0)
      await db.query(
        'INSERT INTO content_facts (hash, facts) SELECT hash, facts FROM jsonb_to_recordset($1) AS t(hash text, facts jsonb) ON CONFLICT DO NOTHING',
        [JSON.stringify(read.map((one) => ({ hash: keyOf(one.hash), facts: one.facts })))],
      )
  }
  for (const hash of missing) {
    const one = facts.get(hash)
    if (one) memory.set(hash, one, size(one))
  }
  return facts
}

const demand =
  <Facts>(facts: ReadonlyMap<Hash, Facts>) =>
  (hash: Hash): Facts => {
    const one = facts.get(hash)
    if (!one) throw new Error(`The facts of ${hash} were not loaded`)
    return one
  }

/**
 * Reads a text that is about to be stored, before anything waits for it.
 * @throws Problem `too-heavy` for one that cannot be read
 */
export async function readAhead(kind: 'html' | 'css', text: string): Promise<void> {
  const hash = hashOf(text)
  if (kind === 'html') {
    if (contents.get(hash)) return
    const facts = await readContent(text)
    contents.set(hash, facts, sizeOf(facts))
  } else {
    if (styles.get(hash)) return
    const facts = await readStyle(text)
    styles.set(hash, facts, sizeOfStyle(facts))
  }
}

/** What parsing yields for each of these contents; texts that never were read are read now. */
export async function loadFacts(db: Queryable, hashes: Iterable<Hash>): Promise<(hash: Hash) => HtmlFacts> {
  const how = {
    memory: contents,
    keyOf: (hash: Hash) => `${readAs.html} ${hash}`,
    fetch: (unread: readonly Hash[]) => getTexts(db, unread),
    read: readContent,
    size: sizeOf,
  }
  return demand(await load(db, hashes, how))
}

/** What reading each of these style sheets yields. */
export async function loadStyles(db: Queryable, hashes: Iterable<Hash>): Promise<(hash: Hash) => StyleFacts> {
  const how = {
    memory: styles,
    keyOf: (hash: Hash) => `${readAs.css} ${hash}`,
    fetch: (unread: readonly Hash[]) => getTexts(db, unread),
    read: readStyle,
    size: sizeOfStyle,
  }
  return demand(await load(db, hashes, how))
}

function memoryOf(syntax: FileSyntax): Memory<FileFacts> {
  let memory = others.get(syntax)
  if (!memory) others.set(syntax, (memory = new Memory(mostBytes / 8)))
  return memory
}

/** Files of megabytes that are read at a time. */
const filesAtOnce = 4

/** What each file of a site refers to, as far as files of its kind are read. */
export async function loadFileFacts(
  db: Queryable,
  files: readonly Pick<SiteFile, 'label' | 'sizeBytes' | 'hash'>[],
): Promise<(file: SiteFile) => FileFacts> {
  const bySyntax = new Map<FileSyntax, Hash[]>()
  for (const { label, sizeBytes, hash } of files) {
    const syntax = fileSyntaxOf(label, sizeBytes)
    if (syntax !== null) bySyntax.set(syntax, [...(bySyntax.get(syntax) ?? []), hash])
  }
  const known = new Map<FileSyntax, (hash: Hash) => FileFacts>()
  for (const [syntax, hashes] of bySyntax) {
    if (syntax === 'css') {
      known.set(syntax, await loadStyles(db, hashes))
      continue
    }
    const how = {
      memory: memoryOf(syntax),
      keyOf: (hash: Hash) => `${readAs[syntax]} ${hash}`,
      fetch: (unread: readonly Hash[]) => getTexts(db, unread),
      read: (text: string) => readOther(text, syntax),
      size: sizeOfFile,
      atOnce: filesAtOnce,
    }
    known.set(syntax, demand(await load(db, hashes, how)))
  }
  return ({ label, sizeBytes, hash }) => {
    const syntax = fileSyntaxOf(label, sizeBytes)
    return (syntax !== null && known.get(syntax)?.(hash)) || { references: [] }
  }
}

/**
 * Reads what files refer to before anything waits for it.
 * @param textOf the text of one that is about to be stored; without one it is here already
 */
export async function readFilesAhead(
  files: readonly Pick<SiteFile, 'label' | 'sizeBytes' | 'hash'>[],
  textOf: (hash: Hash) => string | undefined = () => undefined,
): Promise<void> {
  const stored = files.filter(({ hash }) => textOf(hash) === undefined)
  await loadFileFacts(pool(), stored)
  for (const { label, sizeBytes, hash } of files) {
    const syntax = fileSyntaxOf(label, sizeBytes)
    const text = textOf(hash)
    if (syntax === null || text === undefined) continue
    if (syntax === 'css') await readAhead('css', text)
    else memoryOf(syntax).set(hash, await readOther(text, syntax), bytesOfRange)
  }
}

/** How large each of these pictures is, in pixels of its own; null for what is none. Their fronts are read. */
export async function loadPixels(
  db: Queryable,
  hashes: Iterable<Hash>,
): Promise<(hash: Hash) => Pixels | null> {
  const known = await load(db, hashes, {
    memory: pictures,
    keyOf: (hash: Hash) => `${readAs.pixels} ${hash}`,
    fetch: (unread) => getFronts(db, unread, pixelBytes),
    read: (front: Buffer) => Promise.resolve({ pixels: readPixels(front) }),
    size: () => bytesOfRange,
  })
  return (hash) => known.get(hash)?.pixels ?? null
}

/** Deletes what reading yielded of contents that are gone, and what an earlier version read. */
export async function deleteOldFacts(db: Queryable): Promise<void> {
  await db.query(
    `DELETE FROM content_facts f
     WHERE left(f.hash, -65) <> ALL($1) OR NOT EXISTS (SELECT 1 FROM blobs WHERE hash = right(f.hash, 64))`,
    [Object.values(readAs)],
  )
}
