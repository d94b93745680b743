import { type ReactNode, useEffect, useRef, useState } from 'react'
import {
  type Arrangement,
  copyWidths,
  type FoundPicture,
  heightFor,
  picturesHtml,
  type ShownPicture,
  widthFor,
} from '#core/pictures'
import { besideClass } from '#core/style'
import { useSite } from '../document/site-context'
import type { Sending } from '../files/sending'
import { Button } from '../parts/button'
import { Check } from '../parts/check'
import { size } from '../parts/format'
import { Pick } from '../parts/picks/pick'
import { type ComingPicture, placePicture } from './place-picture'
import { type Together, usualTogether, widthAmong } from './pictures-together'
import { naturalSize } from './smaller-copies'
import { useBesideRule } from './use-beside-rule'

/** A picture that is to stand in a text, or that stands in it already. */
export interface WantedPicture extends ComingPicture {
  /** Where the browser gets it from now. */
  readonly shown: string
  readonly sizeBytes: number
  /** What is said of it where it stands; missing where it is new. */
  readonly found?: FoundPicture
}

/** What its author says of it. */
interface Said {
  readonly alt: string
  readonly saysNothing: boolean
  readonly caption: string
  readonly natural: ShownPicture['natural']
  /** Null where they are as those of the others are. */
  readonly width: number | null
  readonly leadsToFull: boolean | null
  readonly wantsCopies: boolean
}

const unsaid: Said = {
  alt: '',
  saysNothing: false,
  caption: '',
  natural: null,
  width: null,
  leadsToFull: null,
  wantsCopies: true,
}

const saidOf = ({ alt, caption, width, leadsToFull, hasCopies }: FoundPicture): Said => ({
  alt: alt ?? '',
  saysNothing: alt === '',
  caption,
  natural: null,
  width,
  leadsToFull,
  wantsCopies: hasCopies,
})

/** How it is shown, by itself and among the others. */
function lookOf({ natural, width, leadsToFull }: Said, together: Together) {
  const shown = width ?? (natural && widthAmong(natural, together))
  const isSmaller = natural !== null && shown !== null && shown < natural.width
  return { width: shown, leadsToFull: isSmaller && (leadsToFull ?? together.leadToFull) }
}

interface Props {
  readonly pictures: readonly WantedPicture[]
  /** What smaller copies are sent with. */
  readonly sending: Sending
  /** Whether a picture stands before these in the page: those after the first are fetched as they come near. */
  readonly isFirst: boolean
  readonly onDone: (html: string) => void
}

/** Asks of each picture what it says and how large it is shown, makes smaller copies, and writes it. */
export function PictureDialog({ pictures, sending, isFirst, onDone }: Props) {
  const { store } = useSite()
  const [said, setSaid] = useState<readonly Said[]>(() =>
    pictures.map(({ found }) => (found ? saidOf(found) : unsaid)),
  )
  const [together, setTogether] = useState(usualTogether.below)
  const rule = useBesideRule(together.arrangement === 'beside')
  const [wantsRule, setWantsRule] = useState(true)
  const [work, setWork] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const update = (index: number, part: Partial<Said>) =>
    setSaid((all) => all.map((one, at) => (at === index ? { ...one, ...part } : one)))
  useEffect(() => {
    for (const [index, picture] of pictures.entries())
      void naturalSize(picture.shown).then((natural) => {
        if (!natural) return
        // One that stands somewhere without a width has its own.
        update(index, picture.found?.width === null ? { natural, width: natural.width } : { natural })
      })
  }, [pictures])
  /** Set when nobody wants them any more. */
  const isOver = useRef(false)
  useEffect(() => {
    isOver.current = false
    return () => void (isOver.current = true)
  }, [])
  const isChange = pictures.some(({ found }) => found)
  const isSaid = said.every((one) => one.saysNothing || one.alt.trim() !== '')

  async function place() {
    setProblem(null)
    const pieces: string[] = []
    try {
      for (const [index, picture] of pictures.entries()) {
        const one = said[index]!
        const look = {
          ...one,
          ...lookOf(one, together),
          caption: one.caption.trim(),
          alt: one.saysNothing ? '' : one.alt.trim(),
          isLazy: picture.found?.isLazy ?? !(isFirst && index === 0),
          // A figure whose words were taken away is one no longer; one that had none stays.
          isFigure: picture.found?.isFigure === true && picture.found.caption === '',
          rest: picture.found?.rest ?? [],
        }
        const html = await placePicture({ store, uploads: sending }, picture, look, setWork)
        if (isOver.current) return
        if (html !== null) pieces.push(html)
      }
      if (pieces.length > 0 && wantsRule) rule?.add()
      onDone(pieces.length > 0 ? picturesHtml(pieces, together.arrangement, besideClass) : '')
    } catch {
      setProblem('This picture could not be read or sent. Try again in a moment, or without smaller copies.')
    } finally {
      setWork(null)
    }
  }
  return (
    <form
      className="grid min-h-0 grid-rows-[minmax(0,1fr)_auto]"
      onSubmit={(event) => {
        event.preventDefault()
        if (isSaid && work === null) void place()
      }}
    >
      <div className="overflow-auto px-7">
        {pictures.length > 1 && (
          <TogetherLine
            together={together}
            onSay={(next) => {
              setTogether(next)
              setSaid((all) => all.map((one) => ({ ...one, width: null, leadsToFull: null })))
            }}
          >
            {rule && (
              <Check
                checked={wantsRule}
                onChange={setWantsRule}
                words={`No style sheet says how they stand so: add it to ${rule.path}`}
              />
            )}
          </TogetherLine>
        )}
        <ul>
          {pictures.map((picture, index) => (
            <PictureRow
              key={picture.shown}
              picture={picture}
              said={said[index]!}
              together={together}
              isFirst={index === 0}
              onSay={(part) => update(index, part)}
            />
          ))}
        </ul>
      </div>
      <div className="flex flex-wrap items-center gap-4 border-t border-rule px-7 py-4">
        <Button type="submit" look="go" disabled={!isSaid || work !== null}>
          {isChange ? 'Change it' : pictures.length === 1 ? 'Put it in' : `Put all ${pictures.length} in`}
        </Button>
        <span role="status" className="text-sm text-quiet">
          {work ?? (isSaid ? '' : 'Say what each picture says, or that it says nothing.')}
        </span>
        {problem !== null && (
          <span role="alert" className="text-sm text-rubric">
            {problem}
          </span>
        )}
      </div>
    </form>
  )
}

const arrangements: readonly {
  readonly value: Arrangement
  readonly words: string
  readonly hint: string
}[] = [
  { value: 'below', words: 'one below the other', hint: 'As wide as the text, each on its own' },
  { value: 'beside', words: 'side by side', hint: 'In even rows, as many as there is room for' },
]
const number = 'w-20 border-b border-quiet bg-transparent px-1 text-right font-mono text-[14px]'
/** Pixels that any page or screen has. */
const mostPixels = 10_000

/** What is said of all pictures at once. */
function TogetherLine({
  together,
  onSay,
  children,
}: {
  together: Together
  onSay: (together: Together) => void
  children: ReactNode
}) {
  const { arrangement, size: pixels, leadToFull } = together
  const isBeside = arrangement === 'beside'
  return (
    <div className="grid gap-2 border-b border-rule pb-4">
      <p className="font-serif text-[18px]">
        They stand{' '}
        <Pick
          label="How they stand"
          value={arrangement}
          options={arrangements}
          onPick={(next) => onSay(usualTogether[next])}
          after=","
        />{' '}
        each {isBeside ? '' : 'at most '}
        <input
          className={number}
          type="number"
          min={1}
          max={mostPixels}
          aria-label={isBeside ? 'Height of each in pixels' : 'Width of each at most in pixels'}
          value={pixels}
          onChange={(event) => onSay({ ...together, size: clamp(event.target.valueAsNumber, mostPixels) })}
        />{' '}
        pixels {isBeside ? 'high' : 'wide'}.
      </p>
      <Check
        checked={leadToFull}
        onChange={(next) => onSay({ ...together, leadToFull: next })}
        words="Each leads to the whole picture"
      />
      {children}
    </div>
  )
}

function PictureRow({
  picture,
  said,
  together,
  isFirst,
  onSay,
}: {
  picture: WantedPicture
  said: Said
  together: Together
  isFirst: boolean
  onSay: (part: Partial<Said>) => void
}) {
  const { natural } = said
  const { width, leadsToFull } = lookOf(said, together)
  const { canLead = true, canHaveCaption = true } = picture.found ?? {}
  const widths = natural && width !== null ? copyWidths(natural, width) : []
  return (
    <li className="grid grid-cols-[9rem_minmax(0,1fr)] gap-5 py-3">
      <img src={picture.shown} alt="" className="max-h-40 w-36 border border-rule object-contain" />
      <div className="grid content-start gap-2">
        <p className="truncate text-sm text-quiet">
          {picture.name}
          {natural &&
            ` · ${natural.width.toLocaleString('en')} × ${natural.height.toLocaleString('en')} pixels`}{' '}
          · {size(picture.sizeBytes)}
        </p>
        <label className="block text-sm text-quiet">
          What it says to somebody who cannot see it
          <input
            className="field text-[15px] text-ink"
            autoFocus={isFirst}
            value={said.saysNothing ? '' : said.alt}
            disabled={said.saysNothing}
            maxLength={500}
            placeholder={said.saysNothing ? 'Nothing: it is passed over' : ''}
            onChange={(event) => onSay({ alt: event.target.value })}
          />
        </label>
        <Check
          checked={said.saysNothing}
          onChange={(saysNothing) => onSay({ saysNothing })}
          words="It only decorates, and says nothing"
        />
        {canHaveCaption && (
          <label className="block text-sm text-quiet">
            Words that stand below it, if any
            <input
              className="field text-[15px] text-ink"
              value={said.caption}
              maxLength={500}
              onChange={(event) => onSay({ caption: event.target.value })}
            />
          </label>
        )}
        {natural && width !== null && (
          <>
            <p className="text-sm">
              Shown{' '}
              <input
                className={number}
                type="number"
                min={1}
                max={natural.width}
                aria-label={`Width of ${picture.name} in pixels`}
                value={width}
                onChange={(event) => onSay({ width: clamp(event.target.valueAsNumber, natural.width) })}
              />{' '}
              wide and{' '}
              <input
                className={number}
                type="number"
                min={1}
                aria-label={`Height of ${picture.name} in pixels`}
                value={heightFor(natural, width)}
                onChange={(event) =>
                  onSay({ width: clamp(widthFor(natural, event.target.valueAsNumber || 1), natural.width) })
                }
              />{' '}
              high
            </p>
            {widths.length > 0 && (
              <Check
                checked={said.wantsCopies}
                onChange={(wantsCopies) => onSay({ wantsCopies })}
                words={`It is far larger than it is shown: add ${widths.length === 1 ? 'a smaller copy' : 'smaller copies'}, ${widths.map((one) => one.toLocaleString('en')).join(' and ')} wide`}
              />
            )}
            {canLead && natural.width > width && (
              <Check
                checked={leadsToFull}
                onChange={(leadsToFull) => onSay({ leadsToFull })}
                words="It leads to the whole picture"
              />
            )}
          </>
        )}
      </div>
    </li>
  )
}

const clamp = (width: number, most: number) =>
  Math.max(1, Math.min(most, Number.isFinite(width) ? Math.round(width) : 1))
