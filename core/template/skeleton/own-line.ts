import type { Range } from '#core/markup'

/** An element with its line, where nothing else stands on it. */
export function lineOf(source: string, { start, end }: Range): Range {
  const lineStart = source.lastIndexOf('\n', start - 1) + 1
  const next = source.indexOf('\n', end)
  const lineEnd = next < 0 ? source.length : next + 1
  const isAlone = source.slice(lineStart, start).trim() === '' && source.slice(end, lineEnd).trim() === ''
  return isAlone ? { start: lineStart, end: lineEnd } : { start, end }
}
