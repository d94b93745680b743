import type { Finding } from '#core/findings'

/** Leads a view to a place: to its line, or to the line of the finished page, where that is known. */
export function placeSearch({
  kind,
  id,
  slot,
  line,
  madeLine,
}: Pick<Finding['place'], 'kind' | 'id' | 'slot' | 'line' | 'madeLine'>): string {
  const search = new URLSearchParams({ [kind === 'page' ? 'page' : 'text']: id })
  if (slot !== undefined) search.set('slot', slot)
  if (line !== undefined) search.set('line', String(line))
  else if (madeLine !== undefined) search.set('made', String(madeLine))
  return `?${search}`
}
