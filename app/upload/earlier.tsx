import type { Delivery } from '#server/deliveries'
import { count, moment, size } from '../parts/format'
import { StateMark } from '../parts/state-mark'

/** The deliveries so far: when, how much, and how each ended. */
export function Earlier({
  deliveries,
  publicAddress,
}: {
  deliveries: readonly Delivery[]
  publicAddress: string
}) {
  const ended = deliveries.filter((delivery) => delivery.endedAt !== null)
  if (ended.length === 0) return null
  return (
    <section aria-label="Earlier deliveries">
      <h3 className="mt-6 mb-1.5 text-[19px]">Earlier deliveries</h3>
      <ul>
        {ended.map((delivery, index) => (
          <li key={delivery.id} className="grid grid-cols-[8rem_6.5rem_1fr] gap-4 py-1 leading-6">
            {/* The browser's clock may stand in another zone than the server's. */}
            <span className="text-quiet" suppressHydrationWarning>
              {moment(delivery.endedAt!)}
            </span>
            <StateMark state={delivery.state} />
            <span>
              {count(delivery.fileCount, 'file')}, {size(delivery.byteCount)}
              {delivery.removedCount > 0 && `, ${delivery.removedCount} removed`}
              {delivery.errorMessage && (
                <span className="text-quiet">. {delivery.errorMessage} Send again to go on from there.</span>
              )}
              {index === 0 && delivery.state === 'done' && (
                <>
                  {' · '}
                  <a className="link" href={publicAddress} target="_blank" rel="noreferrer">
                    Open the live site
                  </a>
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
