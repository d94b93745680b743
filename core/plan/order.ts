/**
 * Places of a longest run of growing values; null counts for nothing. What is not in the run is what
 * has to move so that all stands in order again (patience sorting, O(n log n)).
 */
export function longestIncreasing<T extends string | number>(values: readonly (T | null)[]): Set<number> {
  const tails: number[] = []
  const before = new Map<number, number>()
  values.forEach((value, index) => {
    if (value === null) return
    let low = 0
    let high = tails.length
    while (low < high) {
      const middle = (low + high) >> 1
      if (values[tails[middle]!]! < value) low = middle + 1
      else high = middle
    }
    if (low > 0) before.set(index, tails[low - 1]!)
    tails[low] = index
  })
  const places = new Set<number>()
  for (let at = tails[tails.length - 1]; at !== undefined; at = before.get(at)) places.add(at)
  return places
}
