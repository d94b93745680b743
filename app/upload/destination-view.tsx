import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react'
import { useFetcher, useNavigate, useRevalidator } from 'react-router'
import type { Delivery, Destination, SeenSite } from '#server/deliveries'
import { useSelection, useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { count, number } from '../parts/format'
import type { UploadAnswer } from './answer'
import { useLongWork } from '../parts/use-long-work'
import { Compare, Comparing } from './compare'
import { useLasts } from '../parts/use-lasts'
import { DeliveryBar } from './delivery-bar'
import { AsSeen } from './records/as-seen'
import { PlaceLine } from './place-line'
import { Earlier } from './records/earlier'
import { useChosen } from './there/chosen'
import type { ShownComparison } from './there/comparison.server'
import { DifferenceDialog, type Looked } from './there/difference-dialog'
import { FilesToSend } from './there/files-to-send'
import { TakeThere } from './there/take-there'
import { TakeZip } from './take-zip'
import { When } from './when'
import { Refusal } from '../parts/notice'

/** A destination: what differs there, the delivery under way, and the earlier ones. */
export function DestinationView({
  destination,
  comparison,
  deliveries,
  seen,
  switcher,
}: {
  destination: Omit<Destination, 'siteId'>
  comparison: ShownComparison
  deliveries: readonly Delivery[]
  /** What visitors got of what the latest sent; null where it was not asked for yet. */
  seen: SeenSite | null
  /** The way to other destinations. */
  switcher: ReactNode
}) {
  const { site } = useSite()
  const { selected } = useSelection()
  const navigate = useNavigate()
  const send = useFetcher<UploadAnswer>()
  const [looked, setLooked] = useState<Looked | null>(null)
  const [taking, setTaking] = useState<readonly string[] | null>(null)
  const { id } = destination
  const { revalidate } = useRevalidator()
  const [hasCompared, setCompared] = useState(false)
  const [isReading, setReading] = useState(false)
  const onCompared = useCallback(() => {
    setCompared(true)
    setReading(true)
    void revalidate().finally(() => setReading(false))
  }, [revalidate])
  const { work, start, cancel } = useLongWork(`/sites/${site.id}/compare?to=${id}`, onCompared)
  const isLong = useLasts(work.state === 'running', 600)
  const latest = deliveries[0]
  const running = latest && (latest.state === 'waiting' || latest.state === 'running') ? latest : null
  // What is there is asked for once, when nobody has looked yet; what would be sent is not known before, and a button that
  // could be pressed until the asking begins would be gone under the finger.
  const isUnseen = destination.listedAt === null && !running && !hasCompared
  const comparing = work.state === 'running' || isUnseen || isReading
  const chosen = useChosen(comparison, `${latest?.id} ${latest?.state}`)
  const problem =
    (send.data && 'problem' in send.data ? send.data.problem.message : null) ??
    (work.state === 'idle' ? work.problem : null)
  const submit = (intent: string, more: Record<string, string> = {}) =>
    void send.submit({ intent, id, ...more }, { method: 'post' })

  const asked = useRef(false)
  useEffect(() => {
    if (!isUnseen || asked.current) return
    asked.current = true
    void start()
  }, [isUnseen, start])

  const { sendCount, removeCount } = chosen
  const wishes = {
    paths: chosen.paths === null ? '' : JSON.stringify(chosen.paths),
    strays: chosen.strays.length === 0 ? '' : JSON.stringify(chosen.strays),
    removeLeftovers: chosen.isEveryLeftover ? 'on' : '',
  }
  const isNothing = sendCount === 0 && removeCount === 0
  const bring = useCallback(
    (bringingId: string) =>
      void navigate(
        `/sites/bring?${new URLSearchParams({ into: site.id, under: selected.id, waiting: bringingId })}`,
      ),
    [navigate, site.id, selected.id],
  )
  return (
    <div className="grid h-full min-h-0 grid-rows-[1fr_auto]">
      <div className="relative min-h-0 overflow-auto px-7 pt-6 pb-6">
        <div className="mb-2 flex items-baseline justify-between gap-4">
          <h2 className="truncate text-[26px]">{destination.name}</h2>
          {switcher}
        </div>
        <PlaceLine destination={destination} tooLong={comparison.tooLong} />
        {problem !== null && <Refusal className="my-3">{problem}</Refusal>}
        <FilesToSend
          comparison={comparison}
          chosen={chosen}
          comparing={comparing}
          looked={destination.listedAt !== null}
          onLook={(path) =>
            setLooked({
              path,
              was: { side: 'there', called: 'there' },
              now: { side: 'here', called: 'here' },
            })
          }
          onTake={setTaking}
        />
        {latest?.state === 'done' && (
          <AsSeen key={latest.id} siteId={site.id} destinationId={id} deliveryId={latest.id} before={seen} />
        )}
        <Earlier
          deliveries={deliveries}
          publicAddress={destination.publicAddress}
          isBusy={running !== null}
          onLook={setLooked}
          onPutBack={(deliveryId) => submit('put-back', { id: deliveryId })}
        />
        {destination.listedAt !== null && (
          <p className="mt-6 text-quiet">
            What stands there can be{' '}
            <a className="link" href={`/sites/${site.id}/there.zip?to=${id}`} download>
              fetched back as a ZIP
            </a>
            .
          </p>
        )}
      </div>
      <DeliveryBar
        running={running}
        latest={latest ?? null}
        summary={{ toSend: sendCount, bytesToSend: chosen.sendBytes, missing: chosen.missing.length }}
        publicAddress={destination.publicAddress}
        comparing={isLong ? <Comparing work={work} onCancel={cancel} /> : null}
        actions={
          <>
            {/* Forms, so that they work before the window's program is there. */}
            <send.Form method="post">
              <input type="hidden" name="id" value={id} />
              {Object.entries(wishes).map(([name, value]) => (
                <input key={name} type="hidden" name={name} value={value} />
              ))}
              <Button
                type="submit"
                name="intent"
                value="send"
                look="go"
                disabled={isNothing || send.state !== 'idle' || comparing}
              >
                {sendWords(chosen, comparison.toSend)}
              </Button>
            </send.Form>
            <Compare destinationId={id} isBusy={comparing} onStart={() => void start()} />
            <When
              toSend={sendCount}
              byItselfMinutes={destination.byItselfMinutes}
              onSendAt={(at) => submit('send', { ...wishes, beginAt: at.toISOString() })}
              onByItself={(minutes) => submit('by-itself', { minutes: String(minutes ?? '') })}
            />
            <TakeZip
              siteId={site.id}
              side="top"
              className="rounded-[5px] border border-rule px-3.5 py-2 font-medium hover:bg-paper"
              words="Take a ZIP…"
              wordsOfFolder="ZIP or folder…"
            />
          </>
        }
        onGoOn={(delivery) => submit('go-on', { id: delivery })}
        onPause={(delivery) => submit('pause', { id: delivery })}
        onCancel={(delivery) => submit('cancel', { id: delivery })}
      />
      {looked && (
        <DifferenceDialog
          to={id}
          looked={looked}
          onClose={() => setLooked(null)}
          onTake={
            looked.was.side === 'there'
              ? (path) => {
                  setLooked(null)
                  setTaking([path])
                }
              : null
          }
        />
      )}
      {taking && (
        <TakeThere
          siteId={site.id}
          destinationId={id}
          paths={taking}
          onTaken={bring}
          onClose={() => setTaking(null)}
        />
      )}
    </div>
  )
}

function sendWords({ isAll, sendCount, removeCount }: ReturnType<typeof useChosen>, toSend: number): string {
  if (sendCount === 0)
    return removeCount > 0
      ? `Remove ${count(removeCount, 'file')} there`
      : toSend === 0
        ? 'Nothing to send'
        : 'Nothing chosen'
  const files = isAll ? count(sendCount, 'file') : `${number(sendCount)} of ${count(toSend, 'file')}`
  return removeCount > 0 ? `Send ${files}, remove ${removeCount}` : `Send ${files}`
}
