import path from 'node:path'
import { Problem } from '#core/problems'
import type { Site } from '#core/site'
import { deadline, limitFetching, type OpenAnswer, openOutside } from '#server/platform'
import { fileKindOf, tellingBytes } from '../file-kind'
import { addStored, storeFile } from '../files'
import { mostRedirects } from './follow'

/** Until it answers, how long it may pause, and in all. */
const answerMs = 10_000
const idleMs = 20_000
const wholeMs = 180_000

const headers = {
  'user-agent': 'Rubricant (takes a picture along for the author of a page)',
  accept: 'image/*',
  // What is stored is the picture itself.
  'accept-encoding': 'identity',
}

/** Opens what an address leads to, by way of its redirects. */
async function open(address: string, signal: AbortSignal): Promise<OpenAnswer & { readonly url: URL }> {
  let url = new URL(address)
  const failed = (why: string) => new Problem('not-fetched', { host: url.host, why })
  for (let redirects = 0; redirects <= mostRedirects; redirects++) {
    const answer = await openOutside(url, 'GET', headers, signal, { answerMs, idleMs }).catch(() => {
      throw failed('it does not answer')
    })
    const { status } = answer
    if (status === 200) return { ...answer, url }
    answer.end()
    const { location } = answer.headers
    if (status < 300 || status >= 400 || location === undefined || !URL.canParse(location, url))
      throw failed(status === 404 || status === 410 ? 'it is not there any more' : `it answers ${status}`)
    url = new URL(location, url)
    if (!/^https?:$/.test(url.protocol)) throw failed('it leads elsewhere')
  }
  throw failed('it leads on and on')
}

/** What a picture is called, by the last part of its address. */
function nameOf({ pathname }: URL): string {
  const last = pathname.split('/').at(-1)!
  let name = last
  try {
    name = decodeURIComponent(last)
  } catch {
    // It is called as it is written.
  }
  const { name: stem, ext } = path.posix.parse(name.replace(/[\p{Cc}/\\]/gu, ' ').trim())
  return `${stem.slice(0, 200).trim() || 'picture'}${ext.slice(0, 12)}`
}

/**
 * Takes the picture that stands at an address of another site. One that the site has already is not added once more.
 * @param id of the file that it becomes; asked for again because the answer was lost, it is taken once
 * @returns the file that shows it
 * @throws Problem `not-fetched`, `too-many-attempts`, and those of `storeFile`
 */
export async function takeFromOutside(
  site: Site,
  accountId: string,
  seen: number,
  {
    id,
    address,
    keepsPlace,
  }: { readonly id: string; readonly address: string; readonly keepsPlace: boolean },
  gone: AbortSignal,
): Promise<string> {
  await limitFetching(accountId)
  const signal = deadline(wholeMs, gone)
  const { url, body, end } = await open(address, signal)
  signal.addEventListener('abort', end, { once: true })
  try {
    const name = nameOf(url)
    const stored = await storeFile(site, { name, keepsPlace }, picture(body, name, url.host))
    const same = site.files.find(({ hash, kind }) => hash === stored.hash && kind === stored.kind)
    if (same) return same.id
    await addStored(site, accountId, seen, id, stored)
    return id
  } finally {
    signal.removeEventListener('abort', end)
    end()
  }
}

/** The pieces of a body that is a picture, told by its front before any of it is stored. */
async function* picture(body: AsyncIterable<Buffer>, name: string, host: string): AsyncGenerator<Uint8Array> {
  const front: Buffer[] = []
  let size = 0
  let isTold = false
  async function tell() {
    isTold = true
    const head = Buffer.concat(front).subarray(0, tellingBytes)
    if ((await fileKindOf(name, head)).kind !== 'image')
      throw new Problem('not-fetched', { host, why: 'what stands there is no picture' })
    return Buffer.concat(front)
  }
  try {
    for await (const piece of body) {
      if (isTold) {
        yield piece
        continue
      }
      front.push(piece)
      size += piece.length
      if (size >= tellingBytes) yield await tell()
    }
  } catch (error) {
    if (error instanceof Problem) throw error
    throw new Problem('not-fetched', { host, why: 'it broke off' })
  }
  if (!isTold) yield await tell()
}
