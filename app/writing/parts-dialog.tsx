import { useMemo, useState } from 'react'
import {
  type ChangeRequest,
  isWithin,
  joinRequest,
  type PartHeading,
  partHeadings,
  pieceRequest,
  splitRequest,
  type TextOfPage,
} from '#core/change'
import { mainSlot, type Page, slotOf } from '#core/site'
import { useSelection, useSite } from '../document/site-context'
import { fetchText } from '../document/use-text'
import { Button } from '../parts/button'
import { PlaceSearch } from '../parts/picks/place-search'
import { placesOf } from '../parts/picks/places-of'
import { Pick } from '../parts/picks/pick'

interface Props {
  readonly page: Page
  readonly slot: string
  /** The text as it is stored, and what of it is chosen in the editor. */
  readonly text: string
  readonly chosen: { readonly from: number; readonly to: number }
  readonly onDone: () => void
}

/** Splits a page at its headings, moves a chosen piece to another page, or makes the page a part of one. */
export function PartsDialog({ page, slot, text, chosen, onDone }: Props) {
  const { site, store, tree } = useSite()
  const { select } = useSelection()
  const [problem, setProblem] = useState<string | null>(null)
  const own: TextOfPage = { page, slot, text, was: slotOf(page, slot) }
  const piece = { start: chosen.from, end: chosen.to }
  const hasPiece = text.slice(piece.start, piece.end).trim() !== ''

  const others = useMemo(() => placesOf(tree, ({ id }) => id !== page.id), [tree, page.id])
  const pageOf = (id: string | null) => (id === null ? undefined : tree.byId.get(id))

  const make = (request: ChangeRequest) => {
    store.ask(request)
    onDone()
  }
  async function withTextOf(other: Page, ask: (text: TextOfPage) => ChangeRequest) {
    try {
      const was = slotOf(other, mainSlot)
      make(ask({ page: other, slot: mainSlot, text: await fetchText(site.id, was), was }))
    } catch {
      setProblem('The other page could not be fetched: the server does not answer. Try again in a moment.')
    }
  }
  return (
    <div className="overflow-auto px-7 pb-6">
      <Split own={own} onSplit={make} />
      {hasPiece && (
        <section className="mt-6 border-t border-rule pt-4">
          <h3 className="mb-2 text-[19px]">Move the chosen piece</h3>
          <PlaceSearch
            label="It goes to the end of"
            places={others}
            onChoose={(id) => {
              const to = pageOf(id)
              if (to) void withTextOf(to, (there) => pieceRequest(site, own, piece, there))
            }}
          />
        </section>
      )}
      {page.id !== site.homeId && slot === mainSlot && tree.childrenOf(page.id).length === 0 && (
        <section className="mt-6 border-t border-rule pt-4">
          <h3 className="mb-2 text-[19px]">Join it to another page</h3>
          <PlaceSearch
            label="It becomes a part, at the end, of"
            places={others}
            onChoose={(id) => {
              const into = pageOf(id)
              if (into)
                void withTextOf(into, (there) => joinRequest(site, own, there)).then(() => select(into.id))
            }}
          />
        </section>
      )}
      {problem !== null && (
        <p role="alert" className="mt-3 text-rubric">
          {problem}
        </p>
      )}
    </div>
  )
}

/** The headings of the page: which of them become pages, and under which labels. */
function Split({ own, onSplit }: { own: TextOfPage; onSplit: (request: ChangeRequest) => void }) {
  const { site } = useSite()
  const parts = useMemo(() => partHeadings(own.text), [own.text])
  const [picked, setPicked] = useState<ReadonlySet<PartHeading>>(new Set())
  const [labels, setLabels] = useState<Readonly<Record<number, string>>>({})
  const [under, setUnder] = useState(own.page.id !== site.homeId)
  const [leavesLinks, setLeavesLinks] = useState(true)
  const labelOf = (part: PartHeading) => labels[part.line] ?? part.label
  /** A part within one that is picked goes with it. */
  const goesWith = (part: PartHeading) => [...picked].some((one) => isWithin(part.range, one.range))
  const chosen = parts.filter((part) => picked.has(part) && !goesWith(part))
  if (parts.length === 0)
    return (
      <p className="text-quiet">
        This page has no heading at which it could be split. Give a part a heading, and it can be a page.
      </p>
    )
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        if (chosen.length > 0)
          onSplit(
            splitRequest(
              site,
              own,
              chosen.map((part) => ({ id: crypto.randomUUID(), label: labelOf(part), part })),
              { under, leavesLinks },
            ),
          )
      }}
    >
      <h3 className="mb-1 text-[19px]">Split it at its headings</h3>
      <ul className="border-t border-rule">
        {parts.map((part) => {
          const isWhole = goesWith(part)
          return (
            <li
              key={part.line}
              className="folds grid min-h-9 grid-cols-[1fr_16rem] items-center gap-4 border-b border-rule"
              style={{ paddingLeft: `${(part.level - 1) * 14}px` }}
            >
              <label className="flex min-w-0 items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-lapis"
                  checked={picked.has(part) || isWhole}
                  disabled={isWhole}
                  onChange={() => {
                    const next = new Set(picked)
                    if (!next.delete(part)) next.add(part)
                    setPicked(next)
                  }}
                />
                <span className="truncate">{part.label}</span>
              </label>
              {isWhole ? (
                <span className="text-sm text-quiet">goes with what it is in</span>
              ) : (
                picked.has(part) && (
                  <input
                    aria-label={`Label of the page “${part.label}”`}
                    className="field"
                    value={labelOf(part)}
                    maxLength={500}
                    onChange={(event) => setLabels({ ...labels, [part.line]: event.target.value })}
                  />
                )
              )}
            </li>
          )
        })}
      </ul>
      <p className="mt-3 font-serif text-[17px] leading-[1.8]">
        What is ticked becomes pages{' '}
        <Pick
          label="Where the pages stand"
          value={under ? 'under' : 'after'}
          options={[
            ...(own.page.id === site.homeId ? [] : [{ value: 'under', words: `under “${own.page.label}”` }]),
            {
              value: 'after',
              words: own.page.id === site.homeId ? 'at the top level' : `after “${own.page.label}”`,
            },
          ]}
          onPick={(where) => setUnder(where === 'under')}
        />
        , and in its place there is{' '}
        <Pick
          label="What is left in its place"
          value={leavesLinks ? 'link' : 'nothing'}
          options={[
            { value: 'link', words: 'a link to it' },
            { value: 'nothing', words: 'nothing', hint: 'Where the template lists the pages below, say' },
          ]}
          onPick={(what) => setLeavesLinks(what === 'link')}
          after="."
        />
      </p>
      <div className="mt-3">
        <Button
          type="submit"
          look="go"
          disabled={chosen.length === 0 || chosen.some((part) => labelOf(part).trim() === '')}
        >
          {chosen.length <= 1 ? 'Make it a page' : `Make ${chosen.length} pages of them`}
        </Button>
      </div>
    </form>
  )
}
