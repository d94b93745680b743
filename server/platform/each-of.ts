/** Runs `work` for each item, a number of them at a time; stops taking new ones at the first failure. */
export async function eachOf<T>(
  items: readonly T[],
  concurrency: number,
  work: (item: T) => Promise<void>,
): Promise<void> {
  const queue = items.values()
  let failure: { error: unknown } | null = null
  const lane = async () => {
    for (const item of queue) {
      if (failure) return
      try {
        await work(item)
      } catch (error) {
        failure ??= { error }
      }
    }
  }
  await Promise.all(Array.from({ length: Math.min(concurrency, items.length) }, lane))
  if (failure) throw (failure as { error: unknown }).error
}

/** What is held in memory at a time: so many files, and no more bytes than this. */
const portionFiles = 64
const portionBytes = 8_000_000

/** Files in portions that fit in memory; one that is larger than a portion stands alone. */
export function* portionsOf<T extends { readonly sizeBytes: number }>(files: readonly T[]): Generator<T[]> {
  let portion: T[] = []
  let bytes = 0
  for (const file of files) {
    if (portion.length > 0 && (portion.length >= portionFiles || bytes + file.sizeBytes > portionBytes)) {
      yield portion
      portion = []
      bytes = 0
    }
    portion.push(file)
    bytes += file.sizeBytes
  }
  if (portion.length > 0) yield portion
}
