import { type ManifestFile, stepOf } from '#core/delivery'
import { away, cut } from '../../parts/away'
import { asJson, isJson } from '../../document/post'

/** What was asked for could not be had, in a sentence for whoever asked. */
export class NotMade extends Error {}

async function refusalOf(response: Response): Promise<NotMade> {
  const told = isJson(response) ? ((await response.json()) as { problem?: { message?: string } }) : {}
  return new NotMade(told.problem?.message ?? away)
}

/** Asks; what nobody answers is told so, and not as what the browser calls it. */
async function ask(siteId: string, signal: AbortSignal, how: RequestInit = {}): Promise<Response> {
  const response = await fetch(`/sites/${siteId}/made`, { ...how, signal }).catch((error: unknown) => {
    if (signal.aborted) throw error
    throw new NotMade(away)
  })
  if (!response.ok || !response.body) throw await refusalOf(response)
  return response
}

/** Every file of the finished site. */
export async function listMade(siteId: string, signal: AbortSignal): Promise<ManifestFile[]> {
  const response = await ask(siteId, signal)
  if (!isJson(response)) throw new NotMade(away)
  return (await response.json()) as ManifestFile[]
}

/** What is asked for at once: so many files, and no more bytes unless one of them has more. */
const [portionFiles, portionBytes] = [1_000, 16_000_000]

/** Files in the order in which they are written: no page before what it needs. */
export function portionsToWrite(files: readonly ManifestFile[]): ManifestFile[][] {
  const portions: ManifestFile[][] = []
  let bytes = 0
  for (const file of files.toSorted((one, two) => stepOf(one) - stepOf(two))) {
    const last = portions.at(-1)
    if (last && last.length < portionFiles && bytes + file.sizeBytes <= portionBytes) last.push(file)
    else {
      portions.push([file])
      bytes = 0
    }
    bytes += file.sizeBytes
  }
  return portions
}

export type Bytes = Uint8Array<ArrayBuffer>

/** Some files of the finished site, taken apart as they come. */
export async function* fetchMade(
  siteId: string,
  files: readonly ManifestFile[],
  signal: AbortSignal,
): AsyncGenerator<{ readonly file: ManifestFile; readonly pieces: AsyncIterable<Bytes> }> {
  const body = JSON.stringify({ files: files.map(({ path, hash }) => ({ path, hash })) })
  const { body: stream } = await ask(siteId, signal, { method: 'POST', headers: asJson, body })
  const reader = stream!.getReader() as ReadableStreamDefaultReader<Bytes>
  let waiting: Bytes = new Uint8Array()
  /** Bytes of the file whose turn it is that have not been taken yet. */
  let left = 0
  async function* restOfIt(): AsyncGenerator<Bytes> {
    while (left > 0) {
      if (waiting.length === 0) {
        const { done, value } = await reader.read().catch((error: unknown) => {
          if (signal.aborted) throw error
          throw new NotMade(cut)
        })
        if (done) throw new NotMade(cut)
        waiting = value
      }
      const piece = waiting.subarray(0, left)
      waiting = waiting.subarray(piece.length)
      left -= piece.length
      yield piece
    }
  }
  try {
    for (const file of files) {
      left = file.sizeBytes
      yield { file, pieces: restOfIt() }
      // What could not be written is passed over: the next one begins after it.
      for await (const _ of restOfIt());
    }
  } finally {
    await reader.cancel().catch(() => {})
  }
}
