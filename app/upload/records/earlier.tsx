import { useEffect, useId, useState } from 'react'
import type { Delivery, DeliveryRecord } from '#server/deliveries'
import { useSite } from '../../document/site-context'
import { isJson } from '../../document/post'
import { Button } from '../../parts/button'
import { count, moment, size } from '../../parts/format'
import { AnyList } from '../../parts/long-list'
import { Path } from '../../parts/path'
import { StateMark } from '../../parts/state-mark'
import type { Looked } from '../there/difference-dialog'

/** The deliveries so far: when, how much, how each ended, and what it did; the state after each can be put back. */
export function Earlier({
  deliveries,
  publicAddress,
  isBusy,
  onLook,
  onPutBack,
}: {
  deliveries: readonly Delivery[]
  publicAddress: string
  /** Whether one is under way: none can be asked for beside it. */
  isBusy: boolean
  onLook: (looked: Looked) => void
  onPutBack: (deliveryId: string) => void
}) {
  const ended = deliveries.filter((delivery) => delivery.endedAt !== null)
  const [open, setOpen] = useState<string | null>(null)
  if (ended.length === 0) return null
  return (
    <section aria-label="Earlier deliveries">
      <h3 className="mt-6 mb-1.5 text-[19px]">Earlier deliveries</h3>
      <ul>
        {ended.map((delivery, index) => (
          <li key={delivery.id} className={open === delivery.id ? 'border-y border-rule py-1' : 'py-1'}>
            <div className="grid grid-cols-[8rem_6.5rem_minmax(0,1fr)_auto] gap-4 leading-6">
              {/* The browser's clock may stand in another zone than the server's. */}
              <span className="text-quiet" suppressHydrationWarning>
                {moment(delivery.endedAt!)}
              </span>
              <StateMark state={delivery.state} />
              <span>
                <Summary delivery={delivery} of={ended} />
                {index === 0 && delivery.state === 'done' && (
                  <>
                    {' · '}
                    <a className="link" href={publicAddress} target="_blank" rel="noreferrer">
                      Open the live site
                    </a>
                  </>
                )}
              </span>
              <button
                type="button"
                className="link text-sm"
                aria-expanded={open === delivery.id}
                onClick={() => setOpen(open === delivery.id ? null : delivery.id)}
              >
                {open === delivery.id ? 'Close' : 'Its record'}
                <span className="sr-only" suppressHydrationWarning>
                  {' '}
                  of {moment(delivery.endedAt!)}
                </span>
              </button>
            </div>
            {open === delivery.id && (
              <Record
                key={delivery.id}
                delivery={delivery}
                others={ended.filter(({ id, elsewhere }) => id !== delivery.id && !elsewhere)}
                isBusy={isBusy}
                onLook={onLook}
                onPutBack={onPutBack}
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

function Summary({ delivery, of }: { delivery: Delivery; of: readonly Delivery[] }) {
  const { fileCount, byteCount, removedCount, heldCount, errorMessage, putBack, elsewhere } = delivery
  // Where one person sends, it goes without saying who.
  const isShared = new Set(of.map(({ askedByName }) => askedByName)).size > 1
  const source = of.find(({ id }) => id === putBack)
  return (
    <>
      {isShared && delivery.askedByName && `${delivery.askedByName}: `}
      {count(fileCount, 'file')}, {size(byteCount)}
      {removedCount > 0 && `, ${removedCount} removed`}
      {heldCount > 0 && `, ${heldCount} left as somebody else had changed them`}
      {putBack !== null && (
        <span suppressHydrationWarning>
          , putting back what stood there {source ? moment(source.endedAt!) : 'before'}
        </span>
      )}
      {elsewhere && <span className="text-quiet">, to another place than it is now</span>}
      {errorMessage && <span className="text-quiet">. {errorMessage} Send again to go on from there.</span>}
    </>
  )
}

/** A delivery's record as it came; the sentence why not. */
function useRecord(siteId: string, deliveryId: string, against: string): DeliveryRecord | string | null {
  const [record, setRecord] = useState<DeliveryRecord | string | null>(null)
  useEffect(() => {
    const abort = new AbortController()
    fetch(`/sites/${siteId}/deliveries/${deliveryId}?${new URLSearchParams({ against })}`, {
      signal: abort.signal,
    })
      .then(async (response) => {
        if (!response.ok || !isJson(response)) throw new Error(response.statusText)
        setRecord((await response.json()) as DeliveryRecord)
      })
      .catch(() => {
        if (!abort.signal.aborted) setRecord('The record could not be fetched. Try again in a moment.')
      })
    return () => abort.abort()
  }, [siteId, deliveryId, against])
  return record
}

const lineWords = {
  sent: 'sent',
  found: 'was there',
  removed: 'removed',
  tried: 'begun',
  held: 'left as it was',
} as const
const changeWords = { comes: 'comes back', goes: 'goes', differs: 'becomes as it was' } as const

function Record({
  delivery,
  others,
  isBusy,
  onLook,
  onPutBack,
}: {
  delivery: Delivery
  others: readonly Delivery[]
  isBusy: boolean
  onLook: (looked: Looked) => void
  onPutBack: (deliveryId: string) => void
}) {
  const { site } = useSite()
  const [against, setAgainst] = useState('')
  const record = useRecord(site.id, delivery.id, against)
  const [isSure, setSure] = useState(false)
  const heading = useId()
  if (record === null) return <p className="py-2 text-quiet">Fetching it…</p>
  if (typeof record === 'string')
    return (
      <p role="alert" className="py-2 text-rubric">
        {record}
      </p>
    )
  const { lines, changes, fileCount, isKept } = record
  const then = `then, ${moment(delivery.endedAt!)}`
  const other = others.find(({ id }) => id === against)
  const number = (change: keyof typeof changeWords) => changes.filter((one) => one.change === change).length
  const words = [
    number('comes') > 0 && `${count(number('comes'), 'file')} ${other ? 'was there then' : number('comes') === 1 ? 'comes back' : 'come back'}`,
    number('differs') > 0 && `${count(number('differs'), 'file')} ${other ? 'was otherwise' : number('differs') === 1 ? 'becomes as it was' : 'become as they were'}`,
    number('goes') > 0 && `${count(number('goes'), 'file')} ${other ? 'was not there' : number('goes') === 1 ? 'goes' : 'go'}`,
  ].filter((one): one is string => one !== false) // prettier-ignore
  return (
    <div className="grid gap-3 py-3 pl-4">
      <div>
        <h4 className="text-quiet">What it did</h4>
        {lines.length === 0 ? (
          <p>Nothing had to be sent.</p>
        ) : (
          <Lines
            label="What it did"
            rows={lines.map(({ path, state }) => ({ path, word: lineWords[state], onLook: null }))}
          />
        )}
      </div>
      {delivery.elsewhere ? (
        <p className="text-quiet">It went to another place than this destination is now.</p>
      ) : (
        <div>
          <h4 id={heading} className="text-quiet">
            The {count(fileCount, 'file')} that stood there after it, against{' '}
            <select
              aria-label="Against what"
              className="field !w-auto !py-0 text-sm"
              value={against}
              onChange={(event) => {
                setAgainst(event.target.value)
                setSure(false)
              }}
            >
              <option value="">what is there now</option>
              {others.map((one) => (
                <option key={one.id} value={one.id}>
                  after {moment(one.endedAt!)}
                </option>
              ))}
            </select>
          </h4>
          {changes.length === 0 ? (
            <p>Nothing differs.</p>
          ) : (
            <Lines
              label="What differs"
              rows={changes.map(({ path, change }) => ({
                path,
                word: changeWords[change],
                onLook:
                  change === 'differs' && isKept
                    ? () =>
                        onLook({
                          path,
                          was: { side: delivery.id, called: then },
                          now: other
                            ? { side: other.id, called: `after ${moment(other.endedAt!)}` }
                            : { side: 'there', called: 'there now' },
                        })
                    : null,
              }))}
            />
          )}
        </div>
      )}
      {!delivery.elsewhere && !other && changes.length > 0 && (
        <div className="flex flex-wrap items-center gap-4">
          {!isKept ? (
            <span className="text-quiet">
              Not all of what stood there then is kept, so it cannot be put back.
            </span>
          ) : isSure ? (
            <>
              <span role="status">
                {words.join(', ')}. Your site here stays as it is, and can be sent again.
              </span>
              <Button look="go" disabled={isBusy} onClick={() => onPutBack(delivery.id)}>
                Put this back
              </Button>
              <Button onClick={() => setSure(false)}>Leave it as it is there</Button>
            </>
          ) : (
            <Button disabled={isBusy} onClick={() => setSure(true)}>
              Put this state back…
            </Button>
          )}
        </div>
      )}
    </div>
  )
}

function Lines({
  label,
  rows,
}: {
  label: string
  rows: readonly { readonly path: string; readonly word: string; readonly onLook: (() => void) | null }[]
}) {
  const line = (row: (typeof rows)[number]) => (
    <span className="grid grid-cols-[minmax(0,1fr)_9rem_5.5rem] items-center gap-3">
      <Path path={row.path} />
      <span className="text-sm text-quiet">{row.word}</span>
      {row.onLook ? (
        <button type="button" className="link justify-self-start text-sm" onClick={row.onLook}>
          Difference<span className="sr-only"> of {row.path}</span>
        </button>
      ) : (
        <span />
      )}
    </span>
  )
  return (
    <AnyList label={label} rows={rows} rowHeight={26} drawnAtMost={12} height="max-h-64">
      {line}
    </AnyList>
  )
}
