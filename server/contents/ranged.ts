import { Readable } from 'node:stream'
import type { ReadableStream as NodeStream } from 'node:stream/web'
import type { Hash } from '#core/site'
import { firstBytes, pool, rangeAsked } from '#server/platform'
import { PostgresContents } from './postgres-store'

/**
 * Answers with a content, or with the part of it that is asked for: a film is played from anywhere in it (RFC 9110 §14, §15.3.7).
 * @returns null where it is not there
 */
export async function answerContent(
  hash: Hash,
  request: Request,
  headers: Readonly<Record<string, string>>,
): Promise<Response | null> {
  const store = new PostgresContents(pool())
  const whole = await store.get(hash)
  if (!whole) return null
  const { sizeBytes } = whole
  // Of what was begun before nothing is known here that could have stayed as it was (§13.1.5).
  const asked = request.headers.has('if-range') ? null : rangeAsked(request.headers.get('range'), sizeBytes)
  const told = { ...headers, 'accept-ranges': 'bytes' }
  if (asked === 'unsatisfiable')
    return new Response(null, { status: 416, headers: { ...told, 'content-range': `bytes */${sizeBytes}` } })
  const answer = (pieces: AsyncIterable<Buffer>, size: number, more: { status: number; headers: object }) =>
    new Response(Readable.toWeb(Readable.from(pieces)) as NodeStream as ReadableStream, {
      status: more.status,
      headers: { ...told, 'content-length': String(size), ...more.headers },
    })
  if (!asked) return answer(whole.pieces, sizeBytes, { status: 200, headers: {} })
  const { start, end } = asked
  const from = await store.get(hash, start)
  if (!from) return null
  return answer(firstBytes(from.pieces, end - start), end - start, {
    status: 206,
    headers: { 'content-range': `bytes ${start}-${end - 1}/${sizeBytes}` },
  })
}
