import { type ReactNode, useState } from 'react'
import { useOutletContext } from 'react-router'
import type { Delivery } from '#server/deliveries'
import type { DeliveryEvent } from '#server/platform'
import { Button } from '../parts/button'
import { count, duration, moment, size } from '../parts/format'
import { useRate } from '../parts/use-rate'

/** What the frame passes to the views: the latest that a delivery told of itself. */
export interface FrameContext {
  readonly delivery: (DeliveryEvent & { readonly deliveryId: string }) | null
}

interface Props {
  readonly running: Delivery | null
  readonly latest: Delivery | null
  /** `missing`: files that what is chosen needs, and that are left out. */
  readonly summary: { readonly toSend: number; readonly bytesToSend: number; readonly missing: number }
  readonly publicAddress: string
  /** How far a comparison is that takes a while; null where none is under way. */
  readonly comparing: ReactNode
  readonly actions: ReactNode
  /** Has a delivery that was cut go on now. */
  readonly onGoOn: (deliveryId: string) => void
  readonly onPause: (deliveryId: string) => void
  readonly onCancel: (deliveryId: string) => void
}

/** The foot of the Upload view: what would be sent, or how far the delivery under way is. */
export function DeliveryBar({
  running,
  latest,
  summary,
  publicAddress,
  comparing,
  actions,
  onGoOn,
  onPause,
  onCancel,
}: Props) {
  const { delivery: event } = useOutletContext<FrameContext>()
  const told = event && running && event.deliveryId === running.id ? event : null
  return (
    <div className="border-t border-rule bg-vellum px-7 py-3.5">
      {running && (running.goOnAt || running.paused) && told?.state !== 'running' ? (
        <Waiting key={running.id} delivery={running} onGoOn={onGoOn} onCancel={onCancel} />
      ) : running ? (
        <Progress key={running.id} delivery={running} told={told} onPause={onPause} onCancel={onCancel} />
      ) : comparing ? (
        comparing
      ) : (
        <>
          <p className="mb-2.5" role="status">
            {latest?.state === 'done' && latest.heldCount > 0 && summary.toSend > 0 ? (
              <span className="text-rubric">
                {latest.heldCount === 1 ? 'One file was' : `${latest.heldCount} files were`} changed there by
                somebody else while you were not looking, and left as{' '}
                {latest.heldCount === 1 ? 'it is' : 'they are'}. Look at the difference above; what you send
                now takes the place of {latest.heldCount === 1 ? 'it' : 'them'}.
              </span>
            ) : latest?.state === 'failed' && summary.toSend > 0 ? (
              <span className="text-rubric">
                {latest.errorMessage} What has arrived stays there; {count(summary.toSend, 'file')} to go.
              </span>
            ) : summary.missing > 0 ? (
              <span className="text-rubric">
                {count(summary.missing, 'file')} that the chosen pages need{' '}
                {summary.missing === 1 ? 'is' : 'are'} left out; what visitors would miss is told above.
              </span>
            ) : summary.toSend === 0 ? (
              <>
                Nothing differs.{' '}
                <a className="link" href={publicAddress} target="_blank" rel="noreferrer">
                  Open the live site
                </a>
              </>
            ) : (
              `${count(summary.toSend, 'file')}, ${size(summary.bytesToSend)}. Pictures and style sheets first, the home page last; visitors never meet a half-sent page.`
            )}
          </p>
          <div className="flex flex-wrap gap-3">{actions}</div>
        </>
      )}
    </div>
  )
}

/** A delivery that waits: for its time, for the host after a cut, or for its author. */
function Waiting({
  delivery,
  onGoOn,
  onCancel,
}: {
  delivery: Delivery
  onGoOn: (id: string) => void
  onCancel: (id: string) => void
}) {
  const { id, errorMessage, fileCount, fileTotal, paused, cuts, goOnAt } = delivery
  const there = fileTotal > 0 && `${fileCount} of ${count(fileTotal, 'file')} are there. `
  const isToBegin = !paused && cuts === 0
  return (
    <div className="grid gap-2.5">
      <p role="status">
        {paused ? (
          <>It is paused. {there}Visitors see whole pages only, as before or as new.</>
        ) : isToBegin ? (
          // The browser's clock may stand in another zone than the server's.
          <span suppressHydrationWarning>
            The site goes out {moment(goOnAt!)}, as it was when you asked for it. What is written until then
            belongs to the next one.
          </span>
        ) : (
          <>
            <span className="text-rubric">{errorMessage}</span> {there}
            <span suppressHydrationWarning>
              It goes on by itself, {moment(goOnAt!)} and then again, for a day.
            </span>
          </>
        )}
      </p>
      <div className="flex items-center gap-4">
        <Button look="go" onClick={() => onGoOn(id)}>
          {isToBegin ? 'Send it now' : paused ? 'Go on' : 'Go on now'}
        </Button>
        <Button onClick={() => onCancel(id)}>{isToBegin ? 'Do not send it' : 'Stop sending'}</Button>
        <span className="text-sm text-quiet">You can leave this view.</span>
      </div>
    </div>
  )
}

/** Seconds over which the rate is taken: a host tells several times a second. */
const rateWindowSeconds = 4

function Progress({
  delivery,
  told,
  onPause,
  onCancel,
}: {
  delivery: Delivery
  told: DeliveryEvent | null
  onPause: (id: string) => void
  onCancel: (id: string) => void
}) {
  const now = told ?? delivery
  const rate = useRate(
    { files: now.fileCount, allFiles: now.fileTotal, bytes: now.byteCount, allBytes: now.byteTotal },
    rateWindowSeconds,
  )
  const [cancelling, setCancelling] = useState(false)
  const [pausing, setPausing] = useState(false)
  const starting = now.fileTotal === 0
  return (
    <div className="grid gap-2.5">
      <p role="status">
        {starting
          ? 'Comparing with what is there…'
          : `${now.fileCount} of ${count(now.fileTotal, 'file')}, ${size(now.byteCount)} of ${size(now.byteTotal)}`}
        {!starting && rate && (
          <span className="text-quiet">
            {' '}
            · {size(Math.round(rate.bytes))} a second · {duration(rate.secondsLeft)} left
          </span>
        )}
      </p>
      <progress
        className="w-full"
        max={Math.max(1, now.byteTotal)}
        value={starting ? undefined : now.byteCount}
        aria-label="Sent so far"
      />
      <div className="flex items-center gap-4">
        <Button
          disabled={pausing || cancelling || delivery.pauseAsked}
          onClick={() => {
            setPausing(true)
            onPause(delivery.id)
          }}
        >
          {pausing || delivery.pauseAsked ? 'Pausing…' : 'Pause'}
        </Button>
        <Button
          disabled={cancelling || delivery.cancelAsked}
          onClick={() => {
            setCancelling(true)
            onCancel(delivery.id)
          }}
        >
          {cancelling || delivery.cancelAsked ? 'Stopping…' : 'Stop sending'}
        </Button>
        <span className="text-sm text-quiet">You can leave this view; it goes on.</span>
      </div>
    </div>
  )
}
