import { count, duration, size } from './format'
import { type HowFar, useRate } from './use-rate'

/** Seconds over which the rate is taken: a browser tells of what it hands to a slow line now and then. */
const rateWindowSeconds = 15

/** How far all that is sent is together, and how long it still takes. */
export function HowFarWords({ far, isPausing }: { far: HowFar; isPausing: boolean }) {
  const rate = useRate(far, rateWindowSeconds)
  return (
    <p className="tabular-nums">
      {far.allFiles > 0 && `${far.files} of ${count(far.allFiles, 'file')}, `}
      {size(far.bytes)} of {size(far.allBytes)}
      {rate && !isPausing && <span className="text-quiet"> · {duration(rate.secondsLeft)} left</span>}
    </p>
  )
}
