import { css } from '@codemirror/lang-css'
import { html } from '@codemirror/lang-html'
import { bidiIsolates, HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { search } from '@codemirror/search'
import { EditorState, Transaction } from '@codemirror/state'
import { EditorView } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import CodeMirror, { ExternalChange, type ReactCodeMirrorRef } from '@uiw/react-codemirror'
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import { useRouteLoaderData } from 'react-router'
import { escapeAttribute } from '#core/markup'
import { lookAttributes, type PartAttribute, parts, whichEntries } from '#core/template'
import type { loader as rootLoader } from '../../root'
import { type AskedByKey, askingKeys } from './asking-keys'
import { addressIn } from './address-in'
import type { TypedAs } from '#core/findings'
import { faultsAsTyped } from './faults-as-typed'
import { type Pasting, pastingInto } from './pasting'
import { type Fitting, putInto } from './put-into'
import type { EditorHandle, HandleRef } from './editor-handle'
import { indentedAsText, planTyped } from './indented-as-text'
import { type LineMark, lineMarks } from './line-marks'
import { type SiteWords, siteWords } from './site-words'
import { coloursShown } from './colours-shown'
import { spelling } from './spelling'
import { tagPairs } from './tag-pairs'
import { typedEnds } from './typed-ends'
import { wordsInHtml } from './words-in-html'
import { changesTo } from './text-from-outside'
import { holdsFolder, ownFilesOfDrop } from '../files-of-drop'
import { useStableActions } from '../use-stable-actions'

const look = EditorView.theme({
  '&': { height: '100%', fontSize: '13.5px', backgroundColor: 'transparent' },
  '.cm-scroller': { fontFamily: 'var(--mono)', lineHeight: '1.6' },
  '.cm-content': { caretColor: 'var(--ink)', padding: '8px 0' },
  '.cm-placeholder': { color: 'var(--ink-2)' },
  '.cm-gutters': { backgroundColor: 'transparent', color: 'var(--ink-3)', border: 'none' },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'transparent' },
  '&.cm-focused .cm-activeLine': {
    backgroundColor: 'color-mix(in srgb, var(--lapis-wash) 45%, transparent)',
  },
  '&.cm-focused': { outline: 'none' },
  '&.cm-focused .cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': {
    backgroundColor: 'var(--lapis-wash) !important',
  },
  '.cm-tooltip': { backgroundColor: 'var(--paper)', border: '1px solid var(--rule)', color: 'var(--ink)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': {
    backgroundColor: 'var(--lapis-wash)',
    color: 'var(--ink)',
  },
  '.cm-matchingBracket': { backgroundColor: 'var(--ochre-wash) !important', outline: 'none' },
  '.cm-panels': { backgroundColor: 'var(--vellum)', color: 'var(--ink)' },
  '.cm-panels.cm-panels-bottom': { borderTop: '1px solid var(--rule)' },
  '.cm-panel.cm-search': { padding: '8px 36px 8px 18px', fontFamily: 'var(--sans)', lineHeight: '2.3' },
  '.cm-panel.cm-search label': { fontSize: '14px', marginRight: '14px' },
  '.cm-panel.cm-search input[type=checkbox]': { accentColor: 'var(--lapis)', verticalAlign: 'middle' },
  '.cm-panel.cm-search [name=close]': { top: '8px', right: '12px', fontSize: '20px', lineHeight: '1' },
  '.cm-panel.cm-search .cm-textfield': {
    border: 'none',
    borderBottom: '1px solid var(--ink-2)',
    borderRadius: '0',
    backgroundColor: 'transparent',
    color: 'var(--ink)',
    fontSize: '14px',
    fontFamily: 'var(--mono)',
    width: '12em',
    marginRight: '12px',
    lineHeight: '1.6',
  },
  '.cm-panel.cm-search .cm-button': {
    backgroundImage: 'none',
    backgroundColor: 'transparent',
    color: 'var(--lapis)',
    border: 'none',
    textDecoration: 'underline',
    textUnderlineOffset: '4px',
    fontSize: '14px',
    padding: '0',
    marginRight: '14px',
  },
  '.cm-panel.cm-search .cm-textfield::placeholder': { color: 'var(--ink-2)' },
  '.cm-searchMatch': { backgroundColor: 'var(--ochre-wash)' },
  '.cm-searchMatch.cm-searchMatch-selected': { backgroundColor: 'var(--lapis-wash)' },
})

const colours = syntaxHighlighting(
  HighlightStyle.define([
    { tag: [tags.tagName, tags.angleBracket, tags.propertyName], color: 'var(--lapis)' },
    { tag: [tags.attributeName, tags.className, tags.labelName], color: 'var(--verdigris)' },
    { tag: [tags.attributeValue, tags.string, tags.number, tags.unit, tags.color], color: 'var(--ochre)' },
    { tag: [tags.comment, tags.documentMeta, tags.processingInstruction], color: 'var(--ink-3)' },
    { tag: [tags.keyword, tags.atom], color: 'var(--lapis)' },
  ]),
)

export interface EditorProps {
  /** What is written here, for a screen reader. */
  readonly name: string
  readonly language: 'html' | 'css' | 'plain'
  readonly value: string
  /** Without it the text can be read and copied only. */
  readonly onChange?: (text: string) => void
  /** Words beside lines; the same array while they are the same. */
  readonly marks?: readonly LineMark[]
  /** Makes what stands for files that are dropped or pasted, or null for nothing; without it they are let go. */
  readonly onFiles?: (files: readonly File[]) => Promise<Fitting | null>
  /** What is known of the site; without it only the language itself is. */
  readonly words?: SiteWords
  /** Told the line the cursor stands on whenever it is put somewhere else; 1-based. */
  readonly onLine?: (line: number) => void
  /** A line to lead to; another object leads there again. */
  readonly reveal?: { readonly line: number } | null
  /** What is checked of the text while it is typed; without it nothing is. */
  readonly checkedAs?: TypedAs
  /** Makes what is pasted; the same object each time. */
  readonly pasting?: Pasting
  /** Gets what can be done from beside it. */
  readonly handle?: HandleRef
  /** Asked for by keys: a link by K, words that are important by B, or said with stress by I. */
  readonly onAsked?: (what: AskedByKey) => void
  /** The language of its words, by its tag: the browser looks at their spelling. Without it nobody does. */
  readonly wordsIn?: string
  /** Shown while nothing is written. */
  readonly example?: string
}

/** The words of the panel that finds, as ours are written. */
const phrases = EditorState.phrases.of({
  next: 'Next',
  previous: 'Previous',
  all: 'All',
  replace: 'Replace',
  'replace all': 'Replace all',
  'match case': 'Case counts',
  regexp: 'Regexp',
  'by word': 'Whole words',
  close: 'Close',
  Replace: 'Replace with',
})

const valuesOf = (attributes: readonly PartAttribute[]) =>
  Object.fromEntries(attributes.map((one) => [one.name, one.values]))

/**
 * Generated parts are elements like others, with attributes that have values; and a `template` fills a slot, or says how the
 * entries of a part are written.
 */
const partTags = {
  ...Object.fromEntries(
    parts.map(({ name, attributes }) => [name, { attrs: valuesOf([...attributes, ...lookAttributes]) }]),
  ),
  template: {
    attrs: {
      slot: [],
      part: parts.map(({ name }) => name),
      which: whichEntries,
      ...valuesOf(parts.flatMap(({ attributes }) => attributes)),
    },
  },
}

/** Tags stay in one piece among words that are read from right to left (Unicode UAX #9, isolates). */
const isolated = bidiIsolates()

const languages = {
  html: () => [
    html({ autoCloseTags: true, matchClosingTags: true }),
    tagPairs,
    typedEnds,
    wordsInHtml,
    isolated,
  ],
  template: () => [
    html({ autoCloseTags: true, matchClosingTags: true, extraTags: partTags }),
    tagPairs,
    typedEnds,
    wordsInHtml,
    isolated,
  ],
  css: () => [css(), typedEnds, coloursShown],
  plain: () => planTyped,
}

/** An address pasted over chosen words links them. */
const addressOver = EditorView.domEventHandlers({
  paste(event, view) {
    const { from, to, empty } = view.state.selection.main
    const pasted = event.clipboardData?.getData('text/plain') ?? ''
    const href = addressIn(pasted)
    if (empty || href === null) return false
    event.preventDefault()
    const words = view.state.sliceDoc(from, to)
    view.dispatch({
      changes: { from, to, insert: `<a href="${escapeAttribute(href)}">${words}</a>` },
      userEvent: 'input.paste',
    })
    return true
  },
})

const handleOf = (view: EditorView): EditorHandle => ({
  text: () => view.state.doc.toString(),
  selection() {
    const { from, to } = view.state.selection.main
    return { from, to, text: view.state.sliceDoc(from, to) }
  },
  replace(from, to, text, cursor = text.length) {
    // Something may have been typed before it meanwhile.
    const most = view.state.doc.length
    view.dispatch({
      changes: { from: Math.min(from, most), to: Math.min(to, most), insert: text },
      selection: { anchor: Math.min(from, most) + cursor },
      scrollIntoView: true,
      userEvent: 'input',
    })
    view.focus()
  },
  edit(edits, chosen) {
    view.dispatch({
      changes: edits.map(({ start, end, text }) => ({ from: start, to: end, insert: text })),
      ...(chosen && { selection: { anchor: chosen.start, head: chosen.end }, scrollIntoView: true }),
      userEvent: 'input',
    })
    if (chosen) view.focus()
  },
})

const filesInFolders = async (data: DataTransfer) =>
  (await ownFilesOfDrop(data)).files.map(({ file }) => file)

/** Files dropped or pasted become what `make` makes of them, at the place they were dropped on. */
function filesInto(make: NonNullable<EditorProps['onFiles']>) {
  const take = (view: EditorView, data: DataTransfer | null, at: number): boolean => {
    const files = [...(data?.files ?? [])]
    if (files.length === 0) return false
    const all = data && holdsFolder(data) ? filesInFolders(data) : Promise.resolve(files)
    void all.then(make).then((fit) => {
      if (!fit) return
      putInto(view, { start: at, end: at }, fit, 'input.drop')
      view.focus()
    })
    return true
  }
  return EditorView.domEventHandlers({
    drop(event, view) {
      const at = view.posAtCoords({ x: event.clientX, y: event.clientY }) ?? view.state.selection.main.head
      const taken = take(view, event.dataTransfer, at)
      if (taken) event.preventDefault()
      return taken
    },
    paste(event, view) {
      const taken = take(view, event.clipboardData, view.state.selection.main.head)
      if (taken) event.preventDefault()
      return taken
    },
  })
}

/** Letters typed before the first of them comes back, at the most. */
const mostEchoes = 50

// The editor is set up anew where these are other objects.
const read = { foldGutter: false, highlightActiveLine: false, highlightSelectionMatches: false }
const written = { ...read, highlightActiveLine: true }

/** Source text with completion, closing of tags and search. Tab indents; Escape, then Tab leaves it. */
export function CodeEditor({
  name,
  language,
  value,
  onChange,
  marks,
  example,
  onFiles,
  words,
  onLine,
  reveal,
  handle,
  onAsked,
  pasting,
  checkedAs,
  wordsIn,
}: EditorProps) {
  const nonce = useRouteLoaderData<typeof rootLoader>('root')?.nonce ?? ''
  const editor = useRef<ReactCodeMirrorRef>(null)
  /** Texts that were typed here and have not come back as the value. */
  const typed = useRef<string[]>([])
  const { changed, lineChosen, asked } = useStableActions({
    changed: (text: string) => {
      typed.current = [...typed.current.slice(-mostEchoes), text]
      onChange?.(text)
    },
    lineChosen: (line: number) => onLine?.(line),
    asked: (what: AskedByKey) => onAsked?.(what),
  })
  const as = checkedAs === 'template' ? checkedAs : language
  const tellsLine = onLine !== undefined
  const asksByKeys = onAsked !== undefined
  // Where it was led is kept until the editor is there to be led.
  const led = useRef<object | null>(null)
  const leadTo = (view: EditorView | undefined) => {
    if (!view || !reveal || led.current === reveal) return
    led.current = reveal
    const line = view.state.doc.line(Math.min(reveal.line, view.state.doc.lines))
    view.dispatch({
      selection: { anchor: line.from },
      effects: EditorView.scrollIntoView(line.from, { y: 'center' }),
    })
    view.focus()
  }
  useEffect(() => leadTo(editor.current?.view))
  // What comes from elsewhere is put in where it differs; the editor's own way would replace all, and lose the place.
  useLayoutEffect(() => {
    const view = editor.current?.view
    if (!view) return
    // What was typed here comes back, perhaps after more has been typed.
    const echo = typed.current.indexOf(value)
    typed.current = typed.current.slice(echo + 1)
    // Where nobody writes, the editor's own way is good enough: it shows the text from its beginning.
    if (echo >= 0 || !view.hasFocus || view.state.doc.toString() === value) return
    view.dispatch({
      changes: changesTo(view.state.doc, value),
      annotations: [ExternalChange.of(true), Transaction.addToHistory.of(false)],
    })
  }, [value])
  const extensions = useMemo(
    () => [
      languages[as](),
      indentedAsText,
      // Its panel stays open when marks set the editor up anew.
      search(),
      phrases,
      marks ? lineMarks(marks) : [],
      checkedAs ? faultsAsTyped(checkedAs, words?.lost) : [],
      pasting ? pastingInto(pasting) : [],
      onFiles ? filesInto(onFiles) : [],
      words && as !== 'plain' ? siteWords(words, as) : [],
      asksByKeys ? [askingKeys(asked), addressOver] : [],
      tellsLine
        ? EditorView.updateListener.of((update) => {
            if (update.selectionSet && !update.docChanged)
              lineChosen(update.state.doc.lineAt(update.state.selection.main.head).number)
          })
        : [],
      look,
      colours,
      EditorView.lineWrapping,
      EditorView.cspNonce.of(nonce),
      EditorView.contentAttributes.of({ 'aria-label': name, tabindex: '0' }),
      wordsIn === undefined ? EditorView.contentAttributes.of({ spellcheck: 'false' }) : spelling(wordsIn),
    ],
    [
      as,
      name,
      wordsIn,
      nonce,
      marks,
      onFiles,
      words,
      pasting,
      checkedAs,
      tellsLine,
      lineChosen,
      asksByKeys,
      asked,
    ],
  )
  return (
    <CodeMirror
      ref={editor}
      onCreateEditor={(view) => {
        if (handle) handle.current = handleOf(view)
        leadTo(view)
      }}
      className="h-full min-h-0"
      height="100%"
      theme="none"
      value={value}
      placeholder={example}
      extensions={extensions}
      readOnly={!onChange}
      onChange={onChange && changed}
      indentWithTab={Boolean(onChange)}
      basicSetup={onChange ? written : read}
    />
  )
}
