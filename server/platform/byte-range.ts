/** A stretch of bytes; `end` is behind the last of them. */
export interface ByteRange {
  readonly start: number
  readonly end: number
}

/**
 * Which part of something is asked for (RFC 9110 §14.1.2, §14.2). Null for the whole of it: where nothing is asked for, nothing
 * that can be read, or several parts at once, which nobody has to give.
 */
export function rangeAsked(header: string | null, sizeBytes: number): ByteRange | 'unsatisfiable' | null {
  const [, first, last] = /^bytes=\s*(\d{0,15})-(\d{0,15})\s*$/i.exec(header ?? '') ?? []
  if (first === undefined || last === undefined || (first === '' && last === '')) return null
  if (first === '') {
    const start = Math.max(0, sizeBytes - Number(last))
    return start < sizeBytes ? { start, end: sizeBytes } : 'unsatisfiable'
  }
  const [start, end] = [Number(first), last === '' ? sizeBytes : Math.min(sizeBytes, Number(last) + 1)]
  // A last byte in front of the first makes it no range at all.
  if (last !== '' && Number(last) < start) return null
  return start < sizeBytes ? { start, end } : 'unsatisfiable'
}

/** The first bytes of what comes in pieces. */
export async function* firstBytes(pieces: AsyncIterable<Buffer>, count: number): AsyncGenerator<Buffer> {
  let left = count
  if (left === 0) return
  for await (const piece of pieces) {
    yield piece.length > left ? piece.subarray(0, left) : piece
    left -= piece.length
    if (left <= 0) return
  }
}
