import { useEffect, useMemo, useState } from 'react'
import { applyEdits, encodePath, escapeAttribute, escapeText, placeId, readHtml } from '#core/markup'
import type { FoundPlace } from '#server/sites'
import { useSite } from '../document/site-context'
import { fetchText } from '../document/use-text'
import { useLinkTargets } from '../document/use-link-targets'
import { addressIn, leadsElsewhere } from '../parts/editor/address-in'
import type { EditorHandle } from '../parts/editor/editor-handle'
import { useTypedList } from '../parts/picks/use-typed-list'

/** Something that a link can lead to. */
interface Goal {
  readonly key: string
  readonly words: string
  /** Said beside it: where it is. */
  readonly where: string
  readonly kind: 'page' | 'file' | 'place' | 'address' | 'mail'
  readonly href: string
  /** A heading that has to get an id first. */
  readonly place?: FoundPlace
}

const kindWords = {
  page: 'page',
  file: 'file',
  place: 'place',
  address: 'another site',
  mail: 'mail',
} as const
const listedAtMost = 60

interface Props {
  readonly editor: EditorHandle
  /** The text that is written: a place in it gets its id here and not behind its back. */
  readonly own: { readonly pageId: string; readonly slot: string }
  readonly onDone: () => void
}

/** Chooses what a link leads to, by a few letters of it, and writes the link. */
export function LinkDialog({ editor, own, onDone }: Props) {
  const { site, names, store } = useSite()
  const [chosen] = useState(() => editor.selection())
  const [typed, setTyped] = useState('')
  const [newTab, setNewTab] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const places = usePlaces(typed)
  const targets = useLinkTargets()

  const goals = useMemo((): Goal[] => {
    const wanted = typed.trim().toLowerCase()
    const address = addressIn(typed)
    const outside: Goal[] =
      address === null
        ? []
        : [{ key: address, words: address.replace(/^mailto:/, ''), where: '', kind: /^mailto:/.test(address) ? 'mail' : 'address', href: address }] // prettier-ignore
    const inside = targets()
      .filter(
        ({ label, address: at }) => label.toLowerCase().includes(wanted) || at.toLowerCase().includes(wanted),
      )
      .map(({ label, address: at, isPage }): Goal => {
        return { key: at, words: label, where: at, kind: isPage ? 'page' : 'file', href: at }
      })
    const found = places.map((place): Goal => {
      const path = `/${encodePath(names.pages.get(place.pageId)?.path ?? '')}`
      const isOwn = place.pageId === own.pageId
      const fragment = encodeURIComponent(place.id ?? placeId(place.text, place.taken))
      return {
        key: `${place.pageId} ${place.slot} ${place.idAt}`,
        words: place.text,
        where: isOwn ? 'in this page' : path,
        kind: 'place',
        href: `${isOwn ? '' : path}#${fragment}`,
        ...(place.id === null && { place }),
      }
    })
    return [...outside, ...inside, ...found]
  }, [typed, targets, places, names, own.pageId])
  const items = goals.slice(0, listedAtMost)

  async function choose(goal: Goal) {
    const { from, to, text } = chosen
    const words = text !== '' ? text : escapeText(goal.words)
    const tab = goal.kind === 'address' && newTab ? ' target="_blank" rel="noopener"' : ''
    const html = `<a href="${escapeAttribute(goal.href)}"${tab}>${words}</a>`
    const { place } = goal
    try {
      if (place) {
        const id = ` id="${escapeAttribute(decodeURIComponent(goal.href.split('#')[1]!))}"`
        if (place.pageId === own.pageId && place.slot === own.slot) {
          // Where the heading stands now: more may have been typed than is stored.
          const heading = readHtml(editor.text()).headings.find(
            (one) => one.id === null && one.text === place.text,
          )
          if (heading) editor.replace(heading.idAt, heading.idAt, id)
          const shift = heading && heading.idAt <= from ? id.length : 0
          editor.replace(from + shift, to + shift, html)
          onDone()
          return
        }
        const written = await fetchText(site.id, place.hash)
        store.change({
          kind: 'setContent',
          pageId: place.pageId,
          slot: place.slot,
          text: applyEdits(written, [{ start: place.idAt, end: place.idAt, text: id }]),
          was: place.hash,
        })
      }
      editor.replace(from, to, html)
      onDone()
    } catch {
      setProblem('The page could not be fetched: the server does not answer. Try again in a moment.')
    }
  }

  const { getLabelProps, getInputProps, getMenuProps, getItemProps, highlightedIndex } = useTypedList({
    items,
    typed,
    onType: setTyped,
    wordsOf: ({ words }) => words,
    keyOf: ({ key }) => key,
    onChoose: (goal) => void choose(goal),
  })
  const address = addressIn(typed)
  return (
    <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)_auto] px-7 pb-5">
      <label className="block text-sm text-quiet" {...getLabelProps()}>
        {chosen.text === '' ? 'It leads to' : `“${chosen.text.slice(0, 60)}” leads to`}
        <input
          className="field text-[17px] text-ink"
          autoFocus
          placeholder="A few letters of a page, file or heading; or an address"
          {...getInputProps()}
        />
      </label>
      <ul className="mt-2 overflow-auto" {...getMenuProps({ 'aria-label': 'What a link can lead to' })}>
        {items.map((item, index) => (
          <li
            key={item.key}
            className={`grid cursor-pointer grid-cols-[1fr_auto_6rem] items-baseline gap-4 px-2 py-1.5 ${index === highlightedIndex ? 'bg-lapis-wash' : ''}`}
            {...getItemProps({ item, index })}
          >
            <span className="truncate">{item.words}</span>
            <span className="max-w-72 truncate font-mono text-[13px] text-quiet">{item.where}</span>
            <span className="text-right text-sm text-quiet">{kindWords[item.kind]}</span>
          </li>
        ))}
      </ul>
      <p className="mt-3 min-h-6 text-sm text-quiet" role="status">
        {problem !== null ? (
          <span className="text-rubric">{problem}</span>
        ) : address !== null && leadsElsewhere(address) ? (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-lapis"
              checked={newTab}
              onChange={(event) => setNewTab(event.target.checked)}
            />
            In a new tab
          </label>
        ) : items.length === 0 ? (
          'Nothing here has that in it. An address begins with https:// or www.'
        ) : goals.length > items.length ? (
          `The first ${items.length} of ${goals.length}.`
        ) : (
          ''
        )}
      </p>
    </div>
  )
}

/** Headings that have what is typed in them, asked for after a short pause. */
function usePlaces(typed: string): readonly FoundPlace[] {
  const { site } = useSite()
  const [found, setFound] = useState<readonly FoundPlace[]>([])
  useEffect(() => {
    const abort = new AbortController()
    const timer = setTimeout(
      () => {
        if (typed.trim().length < 2) return setFound([])
        fetch(`/sites/${site.id}/places?${new URLSearchParams({ q: typed })}`, { signal: abort.signal })
          .then(async (response) => {
            if (response.ok) setFound(((await response.json()) as { places: FoundPlace[] }).places)
          })
          // Without a connection there are pages and files to choose from.
          .catch(() => {})
      },
      typed.trim().length < 2 ? 0 : 120,
    )
    return () => {
      clearTimeout(timer)
      abort.abort()
    }
  }, [site.id, typed])
  return found
}
