import { useEffect, useRef, useState } from 'react'

/** How much there is of something that is sent, and how much of it has gone. */
export interface HowFar {
  readonly files: number
  readonly allFiles: number
  readonly bytes: number
  readonly allBytes: number
}

/** How fast it goes, in bytes a second, and how long it still takes, in seconds; by files where those take the longer. */
export interface Rate {
  readonly bytes: number
  readonly secondsLeft: number
}

/**
 * Says how fast something goes.
 * @param windowSeconds over which the rate is taken: long enough to be steady, short enough to notice a stall
 * @returns null until it has moved, and where it has not for a while
 */
export function useRate({ files, allFiles, bytes, allBytes }: HowFar, windowSeconds: number): Rate | null {
  const samples = useRef<{ at: number; files: number; bytes: number }[]>([])
  const [rate, setRate] = useState<{ files: number; bytes: number } | null>(null)
  useEffect(() => {
    const at = performance.now() / 1000
    const list = samples.current
    const last = list[list.length - 1]
    // How long the first took tells how far the host is away, and nothing of what follows.
    if (last?.files === 0 && last.bytes === 0) list.length = 0
    list.push({ at, files, bytes })
    while (list.length > 2 && at - list[0]!.at > windowSeconds) list.shift()
    const first = list[0]!
    const seconds = at - first.at
    if (seconds > 0.2)
      setRate({ files: (files - first.files) / seconds, bytes: (bytes - first.bytes) / seconds })
    // What stands still has no rate.
    const timer = setTimeout(() => setRate(null), 2_000 * windowSeconds)
    return () => clearTimeout(timer)
  }, [files, bytes, windowSeconds])
  if (!rate || rate.bytes <= 0) return null
  return {
    bytes: rate.bytes,
    secondsLeft: Math.max(
      rate.files > 0 ? (allFiles - files) / rate.files : 0,
      (allBytes - bytes) / rate.bytes,
    ),
  }
}
