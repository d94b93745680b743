import { Popover } from 'radix-ui'
import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { fullTitle, pageTitle } from '#core/template'
import type { Page, Site } from '#core/site'
import { useSite } from '../document/site-context'
import { useText } from '../document/use-text'
import { FlagPick } from '../plan/flag-pick'
import { untilFetched } from '../parts/fetched'
import { PopoverFrame } from '../parts/popover-frame'

/** The chosen page as a tab and a list of results show it, with what of it is cut off. */
export function AsFound({ page }: { page: Page }) {
  return (
    <Popover.Root>
      <Popover.Trigger className="link self-end pb-1 text-sm whitespace-nowrap">
        As it is found
      </Popover.Trigger>
      <PopoverFrame label="As it is found" align="end" className="w-[40rem] bg-vellum">
        <Found page={page} />
      </PopoverFrame>
    </Popover.Root>
  )
}

function Found({ page }: { page: Page }) {
  const { site, names } = useSite()
  const year = new Date().getFullYear()
  const title = fullTitle(site, page, year)
  const path = names.pages.get(page.id)?.path ?? ''
  const steps = path
    .replace(/(^|\/)index\.html?$/, '$1')
    .split('/')
    .filter(Boolean)
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <div>
        <h3 className="mb-1 font-sans text-sm font-normal text-quiet">In a tab</h3>
        <div className="flex items-end border-b border-rule">
          <Cut
            className="w-44 truncate rounded-t-md border border-b-0 border-rule bg-paper px-3 py-1.5 text-[13px]"
            text={title}
            label="Title in a tab"
          />
        </div>
        {(page.titleAlone || fullTitle(site, { ...page, titleAlone: false }, year) !== pageTitle(page)) && (
          <p className="mt-2 font-serif text-[17px]">
            Its title stands{' '}
            <FlagPick
              flag="titleAlone"
              label="What stands around its title"
              no={{ words: 'as all titles do', hint: patternOf(site, page) }}
              yes={{ words: 'by itself', hint: 'nothing is put around it' }}
              after="."
            />
          </p>
        )}
      </div>
      <div>
        <h3 className="mb-1 font-sans text-sm font-normal text-quiet">In a list of results</h3>
        <div className="border border-rule bg-paper px-4 py-3">
          <p className="truncate text-[13px] text-quiet">
            {site.name}
            {steps.map((step) => ` › ${step}`).join('')}
          </p>
          <Cut className="truncate text-[19px] text-lapis" text={title} label="Title in a list of results" />
          {page.description ? (
            <Cut className="line-clamp-2 text-[14px]" text={page.description} label="Description" />
          ) : (
            <p className="text-[14px] text-quiet italic">
              Without a description, some words of the page stand here that nobody has chosen.
            </p>
          )}
        </div>
      </div>
      <FirstHeading page={page} />
    </div>
  )
}

/** What is put around a page's title. */
const patternOf = ({ homeId, homeTitlePattern, titlePattern }: Site, { id }: Page): string =>
  (id === homeId && homeTitlePattern) || titlePattern

/** A text in the room it has, and how much of it that is. */
function Cut({ text, label, className }: { text: string; label: string; className: string }) {
  const element = useRef<HTMLParagraphElement>(null)
  const [isCut, setCut] = useState(false)
  useLayoutEffect(() => {
    const { current } = element
    if (current)
      setCut(current.scrollWidth > current.clientWidth || current.scrollHeight > current.clientHeight + 1)
  }, [text])
  return (
    <>
      <p ref={element} className={className}>
        {text}
      </p>
      <p className="ml-3 text-xs text-quiet">
        <span className="sr-only">{label}: </span>
        {text.length} letters, {isCut ? <span className="text-ochre">cut off</span> : 'all of it seen'}
      </p>
    </>
  )
}

/** The page's first heading, where it says something else than its label: perhaps the better title. */
function FirstHeading({ page }: { page: Page }) {
  const { site, store } = useSite()
  const loaded = useText(site.id, page.content)
  const [heading, setHeading] = useState('')
  const text = loaded.kind === 'ready' ? loaded.text : ''
  useEffect(() => {
    let isHere = true
    void untilFetched(() => import('./first-heading')).then(
      ({ firstHeading }) => isHere && setHeading(firstHeading(text)),
    )
    return () => {
      isHere = false
    }
  }, [text])
  if (heading === '' || heading === page.label || heading === page.title) return null
  return (
    <p className="text-sm">
      The page’s first heading says “{heading}”.{' '}
      <button
        type="button"
        className="link"
        onClick={() =>
          void store.change({
            kind: 'setPageText',
            pageId: page.id,
            field: 'title',
            value: heading,
            was: page.title,
          })
        }
      >
        Make it the title
      </button>
    </p>
  )
}
