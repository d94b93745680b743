import { DropdownMenu, Popover } from 'radix-ui'
import { Fragment, useId, useMemo } from 'react'
import { applyEdits } from '#core/markup'
import { datesOf } from '#core/naming'
import {
  compileTemplate,
  givesOutWhole,
  partEdit,
  type PartKind,
  partKinds,
  removePart,
  setPartAttributes,
  writeEntries,
  type WrittenPart,
  writtenParts,
} from '#core/template'
import { useSite } from '../document/site-context'
import type { WrittenText } from '../document/use-written-text'
import { type AttributeValues, choicesOf, kindWords, nameOfPart, type PartChoice } from './part-words'
import { MenuFrame } from '../parts/menu-frame'
import { PopoverFrame } from '../parts/popover-frame'

/**
 * The menus and lists that a template makes of the plan, each with what it lists and how it looks, and a way to put in another.
 * Read from the source, and written there.
 */
export function PartsSentence({ written, onLead }: { written: WrittenText; onLead: (line: number) => void }) {
  const { text, write } = written
  const { site } = useSite()
  const found = useMemo(() => writtenParts(text), [text])
  const hasDates = datesOf(site).newest.length > 0
  const names = found.map((part) => nameOfPart(part).name)
  const isWhole = useMemo(() => found.length === 0 && givesOutWhole(compileTemplate(text)), [found, text])
  if (isWhole || (found.length === 0 && !write)) return null
  const put = (kind: PartKind) => {
    const edit = partEdit(text, kind, site.language)
    if (!edit) return
    write?.(applyEdits(text, [edit]))
    const line = text.slice(0, edit.start).split('\n').length
    onLead(line + (edit.text.startsWith('\n') ? 1 : 0))
  }
  return (
    <>
      Of the plan it makes {found.length === 0 && 'nothing'}
      {found.map((part, nth) => (
        <Fragment key={`${part.part.name} ${nth}`}>
          {nth > 0 && (nth === found.length - 1 ? ' and ' : ', ')}
          <PartPick
            part={part}
            waits={part.part.name === 'page-latest' && !hasDates ? ', once some carry dates' : ''}
            isOneOf={names.filter((name) => name === names[nth]).length > 1}
            onSet={write && ((values) => write(setPartAttributes(text, nth, values)))}
            onWriteOut={
              part.isPattern
                ? null
                : write &&
                  (() => {
                    write(writeEntries(text, nth))
                    onLead(part.line)
                  })
            }
            onRemove={write && (() => write(removePart(text, nth)))}
            onLead={() => onLead(part.line)}
          />
        </Fragment>
      ))}
      . {write && <PutIn onPut={put} />}
    </>
  )
}

/** A part in the sentence: what it lists and how it looks can be chosen there. */
function PartPick({
  part,
  waits,
  isOneOf,
  onSet,
  onWriteOut,
  onRemove,
  onLead,
}: {
  part: WrittenPart
  /** What it has to wait for before it lists anything, at the end of its words. */
  waits: string
  /** Whether there are several like it, which are told apart by what they are called. */
  isOneOf: boolean
  onSet: ((values: AttributeValues) => void) | null
  /** Puts how its entries are written into the source. */
  onWriteOut: (() => void) | null
  onRemove: (() => void) | null
  onLead: () => void
}) {
  const { name, label } = nameOfPart(part)
  const words = `${name}${isOneOf && label !== '' ? ` “${label}”` : ''}${waits}`
  return (
    <Popover.Root>
      <Popover.Trigger className="pick max-w-80 truncate align-bottom">{words}</Popover.Trigger>
      <PopoverFrame label={words} sideOffset={4} className="w-[27rem] bg-paper">
        <p className="mb-2 text-sm text-quiet">
          <code className="font-mono text-[13px]">
            {part.isPattern ? `<template part="${part.part.name}">` : `<${part.part.name}>`}
          </code>{' '}
          in line {part.line}
          {part.isPattern && ', with entries as the template writes them'}
        </p>
        <div className="grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-4 gap-y-1.5">
          {choicesOf(part).map((choice) => (
            <ChoiceRow key={choice.name} choice={choice} onSet={onSet} />
          ))}
        </div>
        <p className="mt-3 flex flex-wrap gap-x-4">
          <Popover.Close className="link text-sm" onClick={onLead}>
            Show it in the source
          </Popover.Close>
          {onWriteOut && (
            <Popover.Close className="link text-sm" onClick={onWriteOut}>
              Write its entries myself
            </Popover.Close>
          )}
          {onRemove && (
            <Popover.Close className="link text-sm" onClick={onRemove}>
              Take it out
            </Popover.Close>
          )}
        </p>
      </PopoverFrame>
    </Popover.Root>
  )
}

function ChoiceRow({
  choice: { name, words, value, options },
  onSet,
}: {
  choice: PartChoice
  onSet: ((values: AttributeValues) => void) | null
}) {
  const id = useId()
  return (
    <>
      <label htmlFor={id} className="text-quiet">
        {words}
      </label>
      {options ? (
        <select
          id={id}
          className="min-w-0 border-b border-ink-2 bg-paper py-0.5"
          value={value}
          disabled={!onSet}
          onChange={(event) => onSet?.(options.find((option) => option.value === event.target.value)!.sets)}
        >
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.words}
            </option>
          ))}
        </select>
      ) : (
        <input
          key={value}
          id={id}
          className="min-w-0 border-b border-ink-2 bg-paper py-0.5"
          defaultValue={value}
          readOnly={!onSet}
          spellCheck={false}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          onBlur={(event) => {
            const typed = event.target.value.trim()
            if (typed !== value) onSet?.({ [name]: typed === '' ? null : typed })
          }}
        />
      )}
    </>
  )
}

/** Puts another part into the template, where it belongs. */
function PutIn({ onPut }: { onPut: (kind: PartKind) => void }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="link font-sans text-sm whitespace-nowrap">
        Put in a menu or list…
      </DropdownMenu.Trigger>
      <MenuFrame className="w-80 max-w-[calc(100vw-24px)]">
        {partKinds.map((kind) => (
          <DropdownMenu.Item
            key={kind}
            className="cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-lapis-wash"
            onSelect={() => onPut(kind)}
          >
            {kindWords[kind].words}
            <span className="block text-sm text-quiet">{kindWords[kind].hint}</span>
          </DropdownMenu.Item>
        ))}
      </MenuFrame>
    </DropdownMenu.Root>
  )
}
