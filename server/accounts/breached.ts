import { createHash } from 'node:crypto'
import { type FileHandle, open } from 'node:fs/promises'

/** Of a line, as much is read: SHA-1 in hexadecimal and a count. */
const longestLine = 128

/** The line of a file that begins at or after a place, and where the next one begins; null after the last. */
async function lineFrom(file: FileHandle, at: number): Promise<{ start: number; text: string } | null> {
  // A place within a line: that line is passed over, unless the place is where it begins.
  const from = Math.max(0, at - 1)
  const { buffer, bytesRead } = await file.read(Buffer.alloc(2 * longestLine), 0, 2 * longestLine, from)
  const read = buffer.toString('latin1', 0, bytesRead)
  const begins = at === 0 ? 0 : read.indexOf('\n') + 1
  if (at > 0 && begins === 0) return null
  const end = read.indexOf('\n', begins)
  const text = read.slice(begins, end < 0 ? undefined : end).trim()
  return text === '' ? null : { start: from + begins, text }
}

/**
 * Whether a password stands in a file of those that were stolen: SHA-1 of each in hexadecimal, a line each and sorted,
 * with or without a colon and how often it was seen. The file may be of any size: some thirty places of it are read.
 */
export async function isBreached(password: string, path: string): Promise<boolean> {
  const wanted = createHash('sha1').update(password).digest('hex').toUpperCase()
  const file = await open(path, 'r')
  try {
    let low = 0
    let high = (await file.stat()).size
    // What is looked for, if it is there, begins at or after `low` and before `high`.
    while (low < high) {
      const middle = Math.floor((low + high) / 2)
      const line = await lineFrom(file, middle)
      if (line === null || line.start >= high) {
        high = middle
        continue
      }
      const hash = line.text.slice(0, wanted.length).toUpperCase()
      if (hash === wanted) return true
      if (hash < wanted) low = line.start + 1
      else high = middle
    }
    return false
  } finally {
    await file.close()
  }
}
