import pMap from 'p-map'

/**
 * Runs `work` for each item, a number of them at a time; takes no new ones after the first failure, and
 * fails with it once those under way have ended.
 */
export async function eachOf<T>(
  items: readonly T[],
  concurrency: number,
  work: (item: T) => Promise<void>,
): Promise<void> {
  const failures: unknown[] = []
  const take = async (item: T) => {
    if (failures.length === 0) await work(item).catch((error: unknown) => failures.push(error))
  }
  await pMap(items, take, { concurrency })
  if (failures.length > 0) throw failures[0]
}

/** What is held in memory at a time: so many files, and no more bytes than this. */
const portionFiles = 512
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
