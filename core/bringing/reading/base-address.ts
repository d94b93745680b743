import { type Base, baseOf, isFixedBase, mergePath, rebase, splitReference } from '#core/links'
import { applyEdits, type HtmlFacts, readToPlace, writeReference } from '#core/markup'
import { type BroughtFile, folderOf, type Remark } from '../brought'

/** Folders of a base address that are looked below for the top of the site. */
const deepestTop = 8

interface WithBase {
  readonly file: BroughtFile
  readonly text: string
  readonly facts: HtmlFacts
  readonly href: string
}

/** Whether something stands at a path: a file, or a folder, which its home file stands for. */
function standing(files: readonly BroughtFile[]): (path: string) => boolean {
  const paths = new Set<string>()
  for (const { path } of files) {
    paths.add(path)
    for (let folder = folderOf(path); !paths.has(folder); folder = folderOf(folder.slice(0, -1)))
      paths.add(folder)
  }
  return (path) => {
    if (paths.has(path) || paths.has(`${path}/`)) return true
    if (!path.includes('%')) return false
    try {
      return paths.has(decodeURIComponent(path))
    } catch {
      return false
    }
  }
}

/**
 * A base address may name the site as its host does, `http://club.example/~anna/`, and the files that came begin
 * somewhere below it. What the most references lead to something under is where they begin.
 * @param written the base as it is written; what comes back for one of another site, or for one that the files
 * say nothing of
 */
function basedHere(written: Base, pages: readonly WithBase[], stands: (path: string) => boolean): Base {
  const path = written.kind === 'site' ? written.path : written.address.pathname.slice(1)
  const steps = path.split('/')
  let best = written
  let most = 0
  let count = 0
  for (let from = 0; from < Math.min(steps.length, deepestTop); from++) {
    const base: Base = { kind: 'site', path: steps.slice(from).join('/') }
    let hits = 0
    count = 0
    for (const { facts } of pages)
      for (const { href, ifThere } of facts.references) {
        const to = rebase(href, base)
        if (to === null || ifThere || href.startsWith('#') || href === '') continue
        count += 1
        if (stands(mergePath('', splitReference(to).path))) hits += 1
      }
    if (hits > most) [best, most] = [base, hits]
  }
  return most * 2 >= count ? best : written
}

/**
 * Pages without their base addresses (HTML §4.2.3), their references written as they led with them: every step
 * of understanding, and every page that comes out, takes a reference from where its page stands.
 */
export function withoutBases(files: readonly BroughtFile[]): {
  readonly files: readonly BroughtFile[]
  readonly remarks: readonly Remark[]
} {
  const based = new Map<string, WithBase[]>()
  for (const file of files) {
    const { kind, text, path } = file
    if (kind !== 'page' || text === undefined || !/<base[\s/]/i.test(text)) continue
    const facts = readToPlace(text, true)
    const href = facts.bases[0]?.href
    if (href === undefined) continue
    // One that is written from its page says another thing in each folder.
    const key = isFixedBase(href) ? href : `${folderOf(path)} ${href}`
    const alike = based.get(key)
    if (alike) alike.push({ file, text, facts, href })
    else based.set(key, [{ file, text, facts, href }])
  }
  if (based.size === 0) return { files, remarks: [] }
  const stands = standing(files)
  const remarks: Remark[] = []
  const rewritten = new Map<BroughtFile, string>()
  for (const pages of based.values()) {
    const { href, file: first } = pages[0]!
    const written = baseOf(href, first.path)
    const isFromPage = !isFixedBase(href)
    const shared = written && !isFromPage ? basedHere(written, pages, stands) : written
    for (const { file, text, facts } of pages) {
      const base = isFromPage ? baseOf(href, file.path) : shared
      const edits = facts.references.flatMap((reference) => {
        const to = base && rebase(reference.href, base)
        const isWords = to !== null && reference.ifThere && !stands(mergePath('', splitReference(to).path))
        return to === null || isWords
          ? []
          : [{ start: reference.start, end: reference.end, text: writeReference(reference, to) }]
      })
      const cuts = facts.bases.map(({ start, end }) => ({ start, end, text: '' }))
      rewritten.set(file, applyEdits(text, [...edits, ...cuts]))
      const links = edits.length === 1 ? 'one reference is' : `${edits.length} references are`
      remarks.push({
        path: file.path,
        why: `Its base address (${href.slice(0, 200)}) goes${edits.length > 0 ? `, and ${links} written as it made them lead` : ''}.`,
      })
    }
  }
  return {
    files: files.map((file) => (rewritten.has(file) ? { ...file, text: rewritten.get(file)! } : file)),
    remarks,
  }
}
