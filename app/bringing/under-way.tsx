import { Button } from '../parts/button'
import { HowFarWords } from '../parts/how-far'
import { useAsksBeforeLeaving } from '../parts/use-asks-before-leaving'
import type { HowFar } from '../parts/use-rate'
import { useStanding } from '../session/signed-out'

interface Props {
  readonly words: string
  /** Of what is sent from this computer. */
  readonly far: HowFar | null
  /** Of anything else; `of` is 0 where nobody knows. */
  readonly done: number
  readonly of: number
  /** The line is down, or whoever works here is signed out. */
  readonly isPausing: boolean
  readonly onLeave: () => void
}

/** What takes a while before there is something to see: how far it is, and the way out of it. */
export function UnderWay({ words, far, done, of, isPausing, onLeave }: Props) {
  const isSignedOut = useStanding().kind !== 'in'
  useAsksBeforeLeaving(far !== null)
  // All of a ZIP has come: it is taken apart there.
  const isKnown = far ? far.bytes < far.allBytes : of > 0
  return (
    <div className="grid justify-items-start gap-3">
      <p role="status" className="font-serif text-[18px]">
        {words}
      </p>
      <progress
        className="w-80"
        aria-label="Progress"
        {...(isKnown && (far ? { value: far.bytes, max: far.allBytes } : { value: done, max: of }))}
      />
      {far && far.allBytes > 0 && <HowFarWords far={far} isPausing={isPausing} />}
      {isPausing && (
        <p role="status" className="text-quiet">
          {isSignedOut ? 'It goes on when you are signed in.' : 'It goes on by itself when the line is back.'}
        </p>
      )}
      <Button onClick={onLeave}>Call it off</Button>
    </div>
  )
}
