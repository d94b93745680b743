import { Suspense, useMemo, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { LineOrigin } from '#core/build'
import { languagesOf } from '#core/plan'
import { emptyHash, mainSlot, type Page, slotOf } from '#core/site'
import { useSiteWords } from '../document/use-site-words'
import { useSite } from '../document/site-context'
import type { GivenText } from '../document/use-text'
import { useWrittenText } from '../document/use-written-text'
import type { EditorHandle, HandleRef } from '../parts/editor/editor-handle'
import { WrittenTextEditor } from '../parts/editor/written-text'
import { VersionsDialog } from '../versions/versions-dialog'
import type { LineMark } from '../parts/editor/line-marks'
import type { EditorProps } from '../parts/editor/code-editor'
import type { Pasting } from '../parts/editor/pasting'
import type { WrittenElement } from './elements-menu'
import { PicturesNotice } from './pictures-notice'
import { leaveAsItIs, PlainNotice } from './plain-notice'
import { PastedNotice } from './pasted-notice'
import { putFitted } from './put-fitted'
import { usePasting } from './use-pasting'
import { useInsertion } from './use-insertion'
import { DialogFrame } from './dialog-frame'
import { useSlots } from '../template/use-slots'
import { ValueSlot } from './value-slot'
import { lazily, untilFetched } from '../parts/fetched'

const ChooseShown = lazily(() => import('./choose-shown').then((module) => ({ default: module.ChooseShown })))
const PartsDialog = lazily(() => import('./parts-dialog').then((module) => ({ default: module.PartsDialog })))
const DesignDialog = lazily(() =>
  import('./design-dialog').then((module) => ({ default: module.DesignDialog })),
)
const PictureDialog = lazily(() =>
  import('./picture-dialog').then((module) => ({ default: module.PictureDialog })),
)
const TextsDialog = lazily(() => import('./texts-dialog').then((module) => ({ default: module.TextsDialog })))
const ElementsMenu = lazily(() => import('./elements-menu'))
const LinkDialog = lazily(() => import('./link-dialog').then((module) => ({ default: module.LinkDialog })))

const tab = (isChosen: boolean) =>
  `border-b-3 pt-1.5 pb-1 whitespace-nowrap ${isChosen ? 'border-ink font-semibold text-ink' : 'border-transparent text-quiet hover:text-ink'}`

/** What a page holds, slot by slot: one editor, and the names of its slots where there are several. */
export function SlotEditors({
  page,
  given,
  source,
  marks,
  chosen,
  onChoose,
  onShow,
}: {
  page: Page
  given: GivenText | null
  /** Where a place that was chosen in the preview was written. */
  source: LineOrigin | null
  /** Words beside lines, by slot. */
  marks: ReadonlyMap<string, readonly LineMark[]>
  /** The slot that was chosen, of this page or of the one before. */
  chosen: string
  onChoose: (slot: string) => void
  /** Asked to show in the preview what a line of a slot became. */
  onShow: (slot: string, line: number) => void
}) {
  const { shown, values, isWhole, hidden } = useSlots(page)
  const slots = [...shown, ...hidden]
  const slot = slots.includes(chosen) ? chosen : (slots[0] ?? mainSlot)
  const isHidden = hidden.includes(slot)
  const isValue = values.includes(slot)
  const reveal = useMemo(
    () => (source?.kind === 'slot' && source.name === slot ? { line: source.slotLine ?? 1 } : null),
    [source, slot],
  )
  const { store } = useSite()
  const handle = useRef<EditorHandle | null>(null)
  const [asked, setAsked] = useState<'link' | 'picture' | 'parts' | 'design' | null>(null)
  const insertion = useInsertion()
  const pasted = usePasting()
  /** Puts what is made elsewhere where the cursor is. */
  const put = async (html: string) => {
    if (html === '') return
    const { fitInto } = await untilFetched(() => import('./texts'))
    if (handle.current) putFitted(handle.current, handle.current.selection(), html, fitInto)
  }
  /** Puts what is chosen into an element, or takes it out. */
  const putElement = async (name: WrittenElement) => {
    const { elementAround } = await untilFetched(() => import('./texts'))
    const editor = handle.current
    if (!editor) return
    const { from, to } = editor.selection()
    const made = elementAround(editor.text(), { start: from, end: to }, name)
    if (made) editor.edit(made.edits, made.chosen)
    else
      store.refuse(
        `No <${name}> can stand where the cursor is: in a tag, or around what does not stand side by side.`,
      )
  }
  const close = () => setAsked(null)
  /** Asks about the picture whose tag the cursor is within; or does something else, where it is in none of the site's. */
  const changeOr = async (otherwise: () => void) => {
    const { pictureStanding } = await untilFetched(() => import('./picture-standing'))
    const editor = handle.current
    const standing = editor && pictureStanding(store.get().site, page.id, editor)
    if (!standing) return otherwise()
    const html = await insertion.ask([standing.picture])
    if (html !== '') standing.replace(html)
  }
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr]">
      <div className="@container border-b border-rule">
        <div className="flex min-h-8 flex-wrap items-center gap-x-3.5 px-5 whitespace-nowrap">
          <div
            role="group"
            aria-label="Slots of the page"
            className="flex min-w-0 grow gap-5 overflow-x-auto"
          >
            {slots.length > 1 ? (
              slots.map((name) => (
                <button
                  key={name}
                  type="button"
                  aria-pressed={name === slot}
                  className={tab(name === slot)}
                  onClick={() => onChoose(name)}
                >
                  {name}
                  {hidden.includes(name) && <span className="ml-1.5 text-xs text-rubric">not shown</span>}
                </button>
              ))
            ) : (
              <span className="py-1.5 text-sm text-quiet @max-[30rem]:hidden">What the page says</span>
            )}
          </div>
          {/* In one piece: where slots leave no room beside them, below those. */}
          <div className="flex flex-wrap gap-x-3.5 py-1">
            {!isValue && (
              <>
                <Suspense fallback={<span className="text-sm text-lapis">Elements</span>}>
                  <ElementsMenu onChoose={(name) => void putElement(name)} />
                </Suspense>
                <button
                  type="button"
                  className="link text-sm"
                  title="Control or Command and K"
                  onClick={() => setAsked('link')}
                >
                  Link
                </button>
                <button
                  type="button"
                  className="link text-sm"
                  title="Within the tag of a picture it changes that one"
                  onClick={() => void changeOr(() => setAsked('picture'))}
                >
                  Picture
                </button>
                <button type="button" className="link text-sm" onClick={() => setAsked('parts')}>
                  Parts
                </button>
              </>
            )}
            {page.trial && (
              <button
                type="button"
                className="link text-sm whitespace-nowrap"
                onClick={() => setAsked('design')}
              >
                Make it a template
              </button>
            )}
            <VersionsDialog
              textKey={{ kind: 'content', id: page.id, ...(slot !== mainSlot && { slot }) }}
              name={`“${page.label}”`}
            />
          </div>
        </div>
      </div>
      <DialogFrame title="Link" open={asked === 'link'} onClose={close}>
        {handle.current && (
          <LinkDialog editor={handle.current} own={{ pageId: page.id, slot }} onDone={close} />
        )}
      </DialogFrame>
      <DialogFrame title={`Parts of “${page.label}”`} open={asked === 'parts'} onClose={close}>
        {handle.current && <StoredParts page={page} slot={slot} editor={handle.current} onDone={close} />}
      </DialogFrame>
      <DialogFrame title="A template of this design" open={asked === 'design'} onClose={close}>
        {handle.current && <DesignDialog page={page} text={handle.current.text()} onDone={close} />}
      </DialogFrame>
      <DialogFrame title="Picture, film or sound" open={asked === 'picture'} onClose={close}>
        <ChooseShown
          onChoose={(files) => {
            close()
            void insertion.htmlOfStored(files).then(put)
          }}
          onFiles={(files) => {
            close()
            void insertion.htmlOf(files).then(put)
          }}
        />
      </DialogFrame>
      <DialogFrame
        title={insertion.asked?.pictures.length === 1 ? 'Picture' : 'Pictures'}
        open={insertion.asked !== null}
        onClose={() => insertion.asked?.done('')}
      >
        {insertion.asked && (
          <PictureDialog
            pictures={insertion.asked.pictures}
            sending={insertion.asked.sending}
            isFirst={!/<img[\s>]/i.test(handle.current?.text() ?? '')}
            onDone={insertion.asked.done}
          />
        )}
      </DialogFrame>
      <DialogFrame
        title={insertion.askedTexts?.files.length === 1 ? 'Text' : 'Texts'}
        open={insertion.askedTexts !== null}
        onClose={() => insertion.askedTexts?.done('', [])}
      >
        {insertion.askedTexts && <TextsDialog {...insertion.askedTexts} onDone={insertion.askedTexts.done} />}
      </DialogFrame>
      <div className="grid min-h-0 grid-rows-[auto_1fr]">
        {isHidden ? (
          <HiddenNotice page={page} slot={slot} shown={shown} />
        ) : source && source.kind !== 'slot' ? (
          <ElsewhereNotice key={`${source.templateId} ${source.line}`} source={source} />
        ) : pasted.plain ? (
          <PastedNotice
            pasted={pasted.plain}
            handle={handle}
            onDone={pasted.forget}
            onLeave={() => {
              leaveAsItIs(page, slot)
              pasted.forget()
            }}
          />
        ) : (
          <div key={`${page.id} ${slot}`}>
            <PlainNotice
              page={page}
              slot={slot}
              given={slot === mainSlot ? given : null}
              handle={handle}
              isWhole={isWhole}
            />
            <PicturesNotice
              page={page}
              slot={slot}
              given={slot === mainSlot ? given : null}
              handle={handle}
            />
          </div>
        )}
        {isValue ? (
          <ValueSlot key={`${page.id} ${slot}`} page={page} slot={slot} />
        ) : (
          <SlotEditor
            key={slot}
            page={page}
            slot={slot}
            given={slot === mainSlot ? given : null}
            handle={handle}
            onAsked={(what) => (what === 'link' ? setAsked('link') : void putElement(what))}
            onFiles={insertion.insert}
            pasting={pasted.pasting}
            reveal={reveal}
            marks={marks.get(slot)}
            onLine={(line) => onShow(slot, line)}
          />
        )}
      </div>
    </div>
  )
}

/** The parts of a text as it is stored: what is still on its way is waited for. */
function StoredParts({
  page,
  slot,
  editor,
  onDone,
}: {
  page: Page
  slot: string
  editor: EditorHandle
  onDone: () => void
}) {
  const key = { kind: 'content' as const, id: page.id, ...(slot !== mainSlot && { slot }) }
  const written = useWrittenText(key, slotOf(page, slot))
  const { from, to } = editor.selection()
  if (written.isTyped || written.loaded.kind !== 'ready')
    return <p className="px-7 pb-6 text-quiet">Saving what you wrote…</p>
  return <PartsDialog page={page} slot={slot} text={written.text} chosen={{ from, to }} onDone={onDone} />
}

/** Says of a place of the preview that it is not the page's own, and leads to where it was written. */
function ElsewhereNotice({ source }: { source: LineOrigin }) {
  const { site } = useSite()
  const name = site.templates.find(({ id }) => id === source.templateId)?.name ?? 'the template'
  const [isOpen, setOpen] = useState(true)
  if (!isOpen) return <span />
  return (
    <p role="status" className="flex flex-wrap gap-x-4 border-b border-rule bg-lapis-wash px-5 py-2 text-sm">
      <span>
        {source.kind === 'generated' ? 'That is made of the plan by' : 'That stands in'} line {source.line} of
        the template “{name}”.
      </span>
      <Link className="link" to={{ pathname: `/sites/${site.id}/template` }}>
        Go to the templates
      </Link>
      <button type="button" className="link" onClick={() => setOpen(false)}>
        Close
      </button>
    </p>
  )
}

/** Says of a slot that its template has no place for it, and offers one. */
function HiddenNotice({ page, slot, shown }: { page: Page; slot: string; shown: readonly string[] }) {
  const { store } = useSite()
  const free = shown.filter((name) => slotOf(page, name) === emptyHash)
  return (
    <p
      role="status"
      className="flex flex-wrap gap-x-4 border-b border-rubric bg-rubric-wash px-5 py-2 text-sm"
    >
      <span>The page’s template has no slot “{slot}”: what is here is kept, and not shown.</span>
      {free.map((name) => (
        <button
          key={name}
          type="button"
          className="link"
          onClick={() =>
            void store.change({
              kind: 'moveSlot',
              pageId: page.id,
              from: slot,
              to: name,
              was: slotOf(page, slot),
            })
          }
        >
          Move it to “{name}”
        </button>
      ))}
    </p>
  )
}

function SlotEditor({
  page,
  slot,
  given,
  handle,
  onAsked,
  onFiles,
  pasting,
  reveal,
  marks,
  onLine,
}: {
  page: Page
  slot: string
  given: GivenText | null
  handle: HandleRef
  onAsked: NonNullable<EditorProps['onAsked']>
  onFiles: NonNullable<EditorProps['onFiles']>
  pasting: Pasting
  reveal: { readonly line: number } | null
  marks: readonly LineMark[] | undefined
  onLine: (line: number) => void
}) {
  const key = { kind: 'content' as const, id: page.id, ...(slot !== mainSlot && { slot }) }
  const written = useWrittenText(key, slotOf(page, slot), given)
  const { names, site } = useSite()
  const words = useSiteWords(names.pages.get(page.id)?.path ?? '')
  return (
    <WrittenTextEditor
      name={slot === mainSlot ? `Content of ${page.label}` : `${slot} of ${page.label}`}
      language="html"
      written={written}
      onFiles={onFiles}
      pasting={pasting}
      reveal={reveal}
      marks={marks}
      onLine={onLine}
      words={words}
      wordsIn={languagesOf(site).of(page)}
      handle={handle}
      onAsked={onAsked}
      example={slot === mainSlot ? howToBegin : undefined}
    />
  )
}

const howToBegin =
  'Type or paste what the page says: HTML, Markdown, or text from a word processor. Pictures and documents can be dropped here.'
