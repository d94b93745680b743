import { type ReactNode, useState } from 'react'
import type { SiteFile } from '#core/site'
import {
  accentContrast,
  choicesOf,
  defaultChoices,
  type Face,
  faces,
  palettesOf,
  starterStyle,
  type StyleChoices,
} from '#core/style'
import { readColour } from '#core/colours'
import { useSite } from '../document/site-context'
import { useSiteWords } from '../document/use-site-words'
import { useWrittenText, type WrittenText } from '../document/use-written-text'
import { WrittenTextEditor } from '../parts/editor/written-text'
import { Pick } from '../parts/picks/pick'
import { VersionsDialog } from '../versions/versions-dialog'

/** A style sheet: the choices it is made from while it is as it was made, and its source. */
export function StylePane({ file, reveal }: { file: SiteFile; reveal: { readonly line: number } | null }) {
  const written = useWrittenText({ kind: 'file', id: file.id }, file.hash)
  const { names } = useSite()
  const words = useSiteWords(names.files.get(file.id) ?? '')
  const choices = choicesOf(written.text)
  const isReady = written.loaded.kind === 'ready' || written.isTyped
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr]">
      <div className="border-b border-rule px-6 pt-2 pb-2.5">
        {isReady &&
          (choices ? (
            <ChoicesSentence choices={choices} written={written} />
          ) : (
            <Anew label={file.label} written={written} />
          ))}
        <p className="mt-1">
          <VersionsDialog textKey={{ kind: 'file', id: file.id }} name={file.label} />
        </p>
      </div>
      <WrittenTextEditor
        name={`Source of ${file.label}`}
        language="css"
        written={written}
        words={words}
        reveal={reveal}
      />
    </div>
  )
}

const faceOptions = (Object.keys(faces) as Face[]).map((value) => ({ value, words: faces[value].words }))

/** What the style sheet is made from, as a sentence; each choice makes it anew. */
function ChoicesSentence({ choices, written }: { choices: StyleChoices; written: WrittenText }) {
  const choose = (part: Partial<StyleChoices>) => written.write?.(starterStyle({ ...choices, ...part }))
  const { light } = palettesOf(choices)
  return (
    <>
      <p className="font-serif text-[16px] leading-[1.75]">
        Text stands in{' '}
        <Pick
          label="Face of the text"
          value={choices.text}
          options={faceOptions}
          onPick={(text) => choose({ text })}
        />{' '}
        and headings in{' '}
        <Pick
          label="Face of the headings"
          value={choices.headings}
          options={faceOptions}
          onPick={(headings) => choose({ headings })}
          after=","
        />{' '}
        on a{' '}
        <Pick
          label="Ground"
          value={choices.ground}
          options={[
            { value: 'white', words: 'white' },
            { value: 'warm', words: 'warm' },
            { value: 'cool', words: 'cool' },
            { value: 'tinted', words: 'tinted' },
          ]}
          onPick={(ground) => choose({ ground })}
        />{' '}
        ground, in a{' '}
        <Pick
          label="Width of the text"
          value={choices.width}
          options={[
            { value: 'narrow', words: 'narrow', hint: 'About 60 letters a line' },
            { value: 'middling', words: 'middling', hint: 'About 75' },
            { value: 'wide', words: 'wide', hint: 'About 95' },
          ]}
          onPick={(width) => choose({ width })}
        />{' '}
        column, the menu{' '}
        <Pick
          label="Menu"
          value={choices.menu}
          options={[
            { value: 'top', words: 'across the top' },
            { value: 'side', words: 'down the side' },
          ]}
          onPick={(menu) => choose({ menu })}
          after="."
        />{' '}
        Links are{' '}
        <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
          <Accent key={choices.accent} value={choices.accent} onChoose={(accent) => choose({ accent })} />
          <span className="font-sans text-sm text-quiet">
            {light.accent === choices.accent ? '' : `written as ${light.accent} to be read, `}
            contrast {accentContrast(choices).toFixed(1)} : 1
          </span>
        </span>
      </p>
      <p className="mt-0.5 text-sm text-quiet">Change a letter below, and it is plain CSS of your own.</p>
    </>
  )
}

/** The accent, seen while it is chosen and set when the choice is made. */
function Accent({ value, onChoose }: { value: string; onChoose: (accent: string) => void }) {
  const [shown, setShown] = useState(value)
  const set = () => {
    const usable = readColour(shown)
    if (usable && shown !== value) onChoose(shown.toLowerCase())
  }
  return (
    <input
      type="color"
      aria-label="Colour of links"
      className="h-6 w-9 cursor-pointer border border-rule bg-paper p-0"
      value={shown}
      onChange={(event) => setShown(event.target.value)}
      onBlur={set}
      onKeyDown={(event) => event.key === 'Enter' && set()}
    />
  )
}

/** The way back to choices, for a style sheet that is its author's own. */
function Anew({ label, written }: { label: string; written: WrittenText }): ReactNode {
  const [asks, setAsks] = useState(false)
  if (!asks)
    return (
      <p className="font-serif text-[16px] leading-[1.75]">
        {label} is CSS of your own.{' '}
        <button type="button" className="link font-sans text-sm" onClick={() => setAsks(true)}>
          Make it anew from a few choices
        </button>
      </p>
    )
  return (
    <p className="text-[15px]">
      All that stands in {label} gives way to a style sheet of our making; <i>Earlier versions</i> keeps what
      was.{' '}
      <span className="whitespace-nowrap">
        <button
          type="button"
          className="link"
          onClick={() => {
            setAsks(false)
            written.write?.(starterStyle(defaultChoices))
          }}
        >
          Make it anew
        </button>{' '}
        or{' '}
        <button type="button" className="link" onClick={() => setAsks(false)}>
          leave it
        </button>
      </span>
    </p>
  )
}
