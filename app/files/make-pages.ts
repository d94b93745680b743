import type { SiteStore } from '../document/site-store'
import { longestText } from '#core/site'
import type { PageOfFile } from '#core/texts'
import { askOnce } from '../workers/ask-once'
import type { DocumentAnswer, DocumentQuestion } from './document.answer'
import { isDocument, isSpreadsheet } from './text-name'
import { Sending } from './sending'
import type { Uploads } from './uploads'
import { untilFetched } from '../parts/fetched'

/** Where pages go, and how it is told what is being done. */
export interface Making {
  readonly store: SiteStore
  readonly uploads: Pick<Uploads, 'send'>
  readonly signal: AbortSignal
  readonly onWork: (work: string) => void
}

/** A page that a file became, and what its author should know of it; or why it became none. */
export type MadePage =
  { readonly page: PageOfFile; readonly remark: string | null } | { readonly problem: string }

/** Makes a page of a text file, or of a document of a word processor, whose pictures become files of the site. */
export async function pageOf(file: File, making: Making): Promise<MadePage> {
  const made = await pageOfAny(file, making)
  return 'page' in made && made.page.html.length > longestText
    ? { problem: 'It is longer than a page can be, which is four million letters. Part it first.' }
    : made
}

async function pageOfAny(file: File, making: Making): Promise<MadePage> {
  const bytes = await file.arrayBuffer().then(
    (read) => new Uint8Array(read),
    () => null,
  )
  if (bytes === null) return { problem: 'It could not be read. Is it still where it was?' }
  if (isDocument(file.name) || isSpreadsheet(file.name)) return pageOfWords(file, bytes, making)
  const { decodeHtml, pageOfFile } = await untilFetched(() => import('../writing/texts'))
  return { page: pageOfFile(file.name, decodeHtml(bytes).text), remark: null }
}

async function pageOfWords(file: File, bytes: Uint8Array, making: Making): Promise<MadePage> {
  const { store, signal, onWork } = making
  onWork(`Reading ${file.name}…`)
  const asked: DocumentQuestion = { name: file.name, bytes }
  const found = await askOnce<DocumentQuestion, DocumentAnswer>('document', asked, signal).catch(() => null)
  signal.throwIfAborted()
  if (!found) return { problem: 'It could not be read in two minutes, or takes more memory than there is.' }
  if ('problem' in found) return found
  // A text too long is told before its pictures are added.
  if (found.html.length > longestText) return { page: found, remark: null }
  const [{ withPictures }, { placeUsual }] = await Promise.all([
    untilFetched(() => import('../writing/texts')),
    untilFetched(() => import('../writing/place-picture')),
  ])
  const written: string[] = []
  const total = found.pictures.length
  const sending = new Sending(store, making.uploads)
  for (const [index, { bytes: content, type, extension, alt }] of found.pictures.entries()) {
    signal.throwIfAborted()
    const blob = new Blob([content as Uint8Array<ArrayBuffer>], { type })
    const name = `${found.label}${total === 1 ? '' : ` ${index + 1}`}.${extension}`
    const tell = (work: string) => onWork(total === 1 ? work : `${index + 1} of ${total}: ${work}`)
    const placed = placeUsual(
      { store, uploads: sending, signal },
      blob,
      name,
      { alt, isLazy: index > 0 },
      tell,
    )
    written.push((await unless(signal, placed, () => sending.takeBack())) ?? '')
  }
  return {
    page: { ...found, html: withPictures(found.html, (number) => written[number] ?? '') },
    remark: leftOutOf(found.leftOut),
  }
}

/**
 * Waits no longer than until it is called off.
 * @param onEnded called once it has ended all the same, where it was called off before
 */
const unless = <T>(signal: AbortSignal, work: Promise<T>, onEnded: () => void): Promise<T> =>
  new Promise((resolve, reject) => {
    const callOff = () => {
      reject(signal.reason as Error)
      void work.then(onEnded, onEnded)
    }
    work.then(resolve, reject).finally(() => signal.removeEventListener('abort', callOff))
    signal.addEventListener('abort', callOff, { once: true })
  })

function leftOutOf(number: number): string | null {
  if (number === 0) return null
  return number === 1
    ? 'A drawing in it is of a form that no browser shows, and was left out.'
    : `${number} drawings in it are of forms that no browser shows, and were left out.`
}
