/** The middle of several runs in this process, in milliseconds. */
export interface Figure {
  readonly name: string
  readonly medianMs: number
  readonly minMs: number
  readonly maxMs: number
}

/**
 * Runs `work` once to warm up and then `runs` times.
 * @param prepare makes what a run needs, outside the time that is taken
 */
export async function measure<T>(
  name: string,
  prepare: () => T | Promise<T>,
  work: (prepared: T) => unknown,
  runs = 5,
): Promise<Figure> {
  const times: number[] = []
  for (let run = 0; run <= runs; run++) {
    const prepared = await prepare()
    const start = process.hrtime.bigint()
    await work(prepared)
    if (run > 0) times.push(Number(process.hrtime.bigint() - start) / 1e6)
  }
  return figureOf(name, times)
}

/** Something that is timed beside others. */
export interface Beside {
  readonly name: string
  readonly prepare?: () => unknown
  readonly work: (prepared: never) => unknown
}

/**
 * Runs several works in turn, so that what else the machine does meets all of them alike.
 * @returns their times in milliseconds, by work and round; the first round warms up and is left out
 */
export function measureInTurn(works: readonly Beside[], rounds = 9): number[][] {
  const times = works.map((): number[] => [])
  for (let round = 0; round <= rounds; round++)
    for (const [index, { prepare, work }] of works.entries()) {
      const prepared = prepare?.()
      const start = process.hrtime.bigint()
      work(prepared as never)
      if (round > 0) times[index]!.push(Number(process.hrtime.bigint() - start) / 1e6)
    }
  for (const [index, { name }] of works.entries()) figureOf(name, times[index]!)
  return times
}

/** The middle one of some numbers. */
export const median = (numbers: readonly number[]): number =>
  [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)]!

/** The figure of times taken elsewhere, in milliseconds, printed. */
export function figureOf(name: string, timesMs: readonly number[]): Figure {
  const times = [...timesMs].sort((a, b) => a - b)
  const figure = {
    name,
    medianMs: times[Math.floor(times.length / 2)]!,
    minMs: times[0]!,
    maxMs: times.at(-1)!,
  }
  print(figure)
  return figure
}

function print({ name, medianMs, minMs, maxMs }: Figure): void {
  const ms = (value: number) => value.toFixed(value < 10 ? 2 : 0).padStart(7)
  console.log(`${name.padEnd(64)} ${ms(medianMs)} ms   (${ms(minMs).trim()} to ${ms(maxMs).trim()})`)
}

export const ratio = (name: string, a: Figure, b: Figure): void =>
  console.log(`${name.padEnd(64)} ${(a.medianMs / b.medianMs).toFixed(2).padStart(7)}`)
