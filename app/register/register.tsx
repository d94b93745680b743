import { useVirtualizer } from '@tanstack/react-virtual'
import {
  type KeyboardEvent,
  type Ref,
  Suspense,
  useEffect,
  useImperativeHandle,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react'
import { withIds } from '#core/change'
import { useSelection, useSite } from '../document/site-context'
import { DraftRow } from './draft-row'
import { RegisterHead } from './register-head'
import { RegisterRow, type RowActions } from './register-row'
import type { Other } from '../document/use-presence'
import { useOpenNotes } from '../notes/notes-context'
import type { Relabel } from '../frame/typed-ripple'
import { useStableActions } from '../parts/use-stable-actions'
import type { RegisterColumn } from './column'
import { type Draft, indented, outdented, type Row, rowsOf } from './rows'
import { useCommands } from './use-commands'
import { levelWidth, useRowDrag } from './use-row-drag'
import type { MenuPlace } from './row-menu'
import { lazily, untilFetched } from '../parts/fetched'
import { count } from '../parts/format'

const RowMenu = lazily(() => import('./row-menu'))

const rowHeight = 32
/** Of the sign at the end of a row that opens its menu. */
const menuWidth = 36

interface Props {
  readonly columns: readonly RegisterColumn[]
  /** Whether the plan can be edited here: new pages, levels, moving, removing. Renaming works everywhere. */
  readonly editable: boolean
  /** Who else has the site open, and where. */
  readonly others: readonly Other[]
  /** Hears of a new label as it is typed, so that what it touches shows before it is made; null when the typing ends. */
  readonly onTyped: (change: Relabel | null) => void
  readonly onRename: (change: Relabel) => void
  readonly ref?: Ref<RegisterHandle>
}

/** What is asked of the register from outside it. */
export interface RegisterHandle {
  /** Begins a page after the chosen one, to be typed. */
  readonly addPage: () => void
}

/** The one list of the site's pages as a tree (ARIA Authoring Practices, treegrid pattern, rows first). */
export function Register({ columns, editable, others, onTyped, onRename, ref }: Props) {
  const { site, tree, store } = useSite()
  const { selected, chosen, select, choose } = useSelection()
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set())
  const [draft, setDraft] = useState<Draft | null>(null)
  /** The label is kept as it was when the typing began: what another window does meanwhile is no reason to overwrite it. */
  const [renaming, setRenaming] = useState<{ id: string; was: string } | null>(null)
  const scroller = useRef<HTMLDivElement>(null)
  /** After Escape, Tab leaves the register instead of changing a level: nobody is caught in it. */
  const leaving = useRef(false)
  const rows = useMemo(() => rowsOf(tree, closed, draft), [tree, closed, draft])
  const selectedIndex = rows.findIndex((row) => row.kind === 'page' && row.place.page.id === selected.id)
  const draftIndex = draft ? rows.findIndex((row) => row.kind === 'draft') : -1

  const virtualizer = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    initialRect: { width: 640, height: 660 },
  })
  const focusIndex = draftIndex >= 0 ? draftIndex : selectedIndex
  const height = virtualizer.scrollRect?.height ?? 0
  useEffect(() => {
    if (focusIndex < 0) return
    // Asked of what the list knows already: to ask the browser would have it lay out everything first.
    const top = virtualizer.scrollOffset ?? 0
    const isInView = focusIndex * rowHeight >= top && (focusIndex + 1) * rowHeight <= top + height
    if (!isInView) virtualizer.scrollToIndex(focusIndex, { align: 'auto' })
    // Also when the foot grows: what is being typed must not slip under it.
  }, [focusIndex, height, virtualizer])

  const rowOf = (id: string) => scroller.current?.querySelector<HTMLElement>(`[data-page="${id}"]`)
  /** Rows take the focus themselves; what has it after a row was remade is set right again. */
  const hadFocus = useRef(false)
  useLayoutEffect(() => {
    if (!hadFocus.current || draft || renaming) return
    rowOf(selected.id)?.focus({ preventScroll: true })
  }, [selected.id, draft, renaming, rows])

  const openNotes = useOpenNotes()
  const othersAt = useMemo(() => {
    const at = new Map<string, string>()
    for (const { name, pageId } of others) {
      const there = at.get(pageId)
      if (!there?.split(', ').includes(name)) at.set(pageId, there ? `${there}, ${name}` : name)
    }
    return at
  }, [others])
  const chosenIds = useMemo(() => new Set(chosen.map((page) => page.id)), [chosen])
  /** Where a range begins: the page chosen last without Shift. */
  const anchor = useRef(selected.id)
  const chooseTo = (index: number) => {
    const anchored = rows.findIndex((row) => row.kind === 'page' && row.place.page.id === anchor.current)
    // Where it is gone, or folded away, from the page that is chosen.
    const from = anchored < 0 ? selectedIndex : anchored
    const [low, high] = [Math.min(from, index), Math.max(from, index)]
    const ids = rows
      .slice(Math.max(0, low), high + 1)
      .flatMap((row) => (row.kind === 'page' ? [row.place.page.id] : []))
    const target = rows[index]
    if (target?.kind === 'page') choose(target.place.page.id, new Set(ids))
  }
  const chooseBeside = (id: string) => {
    const next = new Set(chosenIds)
    const wasChosen = next.delete(id)
    if (!wasChosen) next.add(id)
    choose(wasChosen ? (next.values().next().value ?? id) : id, next)
  }
  const toggle = (id: string, open: boolean) =>
    setClosed((old) => (open ? without(old, id) : new Set([...old, id])))
  const selectPage = (id: string) => {
    anchor.current = id
    select(id)
  }
  const selectRow = (row: Row | undefined) => row?.kind === 'page' && selectPage(row.place.page.id)
  const beginRename = (id: string) => store.may('write') && setRenaming({ id, was: tree.byId.get(id)!.label })
  const opens = (id: string) => setClosed((old) => without(old, id))
  const dragged = useRowDrag({
    scroller,
    rows,
    rowHeight,
    isOff: !editable || draft !== null || renaming !== null,
    opens,
  })
  const commands = useCommands({
    opens,
    draft: setDraft,
    rename: beginRename,
  })
  useImperativeHandle(ref, () => ({
    addPage() {
      // Once it is typed, keys go on from its row.
      hadFocus.current = true
      commands().addAfter.run?.()
    },
  }))
  const [menuAt, setMenuAt] = useState<MenuPlace | null>(null)
  /** The focus goes back to the row first: what is done next may take it elsewhere. */
  const endMenu = (run: (() => void) | null) => {
    setMenuAt(null)
    hadFocus.current = true
    rowOf(selected.id)?.focus({ preventScroll: true })
    run?.()
  }

  function onKeyDown(event: KeyboardEvent<HTMLDivElement>) {
    if (draft || renaming || event.target instanceof HTMLInputElement) return
    const leave = leaving.current
    if (event.key !== 'Shift') leaving.current = event.key === 'Escape'
    const row = rows[selectedIndex]
    if (!row || row.kind !== 'page') return
    const { page } = row.place
    const plain = !event.altKey && !event.ctrlKey && !event.metaKey
    const act = (work: (() => void) | null) => {
      event.preventDefault()
      work?.()
    }
    const pageSize = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 320) / rowHeight) - 1)
    const go = (index: number) =>
      act(() => {
        const to = Math.max(0, Math.min(rows.length - 1, index))
        if (event.shiftKey) chooseTo(to)
        else selectRow(rows[to])
      })
    if ((event.ctrlKey || event.metaKey) && !event.altKey) {
      if (event.key.toLowerCase() === 'a') return act(() => choose(page.id, new Set(tree.byId.keys())))
      if (event.key.toLowerCase() === 'd' && editable) return act(commands().copy.run)
    }
    if (event.altKey && editable) {
      if (event.key === 'ArrowUp') return act(commands().up.run)
      if (event.key === 'ArrowDown') return act(commands().down.run)
      if (event.key === 'ArrowRight') return act(commands().in.run)
      if (event.key === 'ArrowLeft') return act(commands().out.run)
    }
    if (!plain) return
    switch (event.key) {
      case 'ArrowDown':
        return go(selectedIndex + 1)
      case 'ArrowUp':
        return go(selectedIndex - 1)
      case 'PageDown':
        return go(selectedIndex + pageSize)
      case 'PageUp':
        return go(selectedIndex - pageSize)
      case 'Home':
        return go(0)
      case 'End':
        return go(rows.length - 1)
      case 'ArrowRight':
        return act(() =>
          row.hasChildren && !row.open
            ? toggle(page.id, true)
            : row.open && selectRow(rows[selectedIndex + 1]),
        )
      case 'ArrowLeft':
        return act(() => (row.open ? toggle(page.id, false) : page.parentId && select(page.parentId)))
      case 'F2':
        return act(() => beginRename(page.id))
    }
    if (!editable) return
    switch (event.key) {
      case 'Enter':
        return act(commands().addAfter.run)
      case 'Delete':
      // Keyboards that have no other key to delete with.
      case 'Backspace':
        return act(commands().remove.run)
      case 'Tab':
        if (leave) return
        return act((event.shiftKey ? commands().out : commands().in).run)
    }
  }

  async function onPaste(event: React.ClipboardEvent) {
    if (!editable || event.target instanceof HTMLInputElement) return
    const text = event.clipboardData.getData('text/plain')
    event.preventDefault()
    if (text.trim() === '') return
    const { guessPlanForm, readPlan } = await untilFetched(() => import('./pasted-plan'))
    const read = readPlan(guessPlanForm(text), text)
    if ('refusal' in read)
      return store.refuse(`What was pasted, line ${read.refusal.line}: ${read.refusal.reason}`)
    const { nodes } = read
    const pages = withIds(nodes, () => crypto.randomUUID())
    const made = store.change({ kind: 'addPages', parentId: selected.parentId, after: selected.id, pages })
    if (!('refusal' in made)) select(pages[0]!.id)
  }

  /** Adds the typed page; the next one follows at once, as when a list is written. */
  function finishDraft(label: string, again: boolean) {
    if (!draft) return
    if (label === '') return setDraft(null)
    const id = crypto.randomUUID()
    const made = store.change({ kind: 'addPages', ...draft, pages: [{ id, label }] })
    if ('refusal' in made) return
    select(id)
    setDraft(again ? { parentId: draft.parentId, after: id } : null)
  }
  const relabelTo = (label: string): Relabel | null =>
    renaming === null || label === '' || label === renaming.was
      ? null
      : { kind: 'setPageText', pageId: renaming.id, field: 'label', value: label, was: renaming.was }
  const actions = useStableActions<RowActions>({
    press: (id, how) => {
      if (how === 'range') chooseTo(rows.findIndex((row) => row.kind === 'page' && row.place.page.id === id))
      else if (how === 'beside') chooseBeside(id)
      else selectPage(id)
    },
    focus: selectPage,
    toggle,
    beginRename,
    openMenu: (id, place) => {
      if (!store.may('write')) return false
      if (!chosenIds.has(id)) selectPage(id)
      setMenuAt(place)
      return true
    },
    keepLabel: (label) => store.noteLine('label', label === null ? null : relabelTo(label)),
    typeLabel: (label) => onTyped(relabelTo(label)),
    endRename: (label) => {
      setRenaming(null)
      const change = label === null ? null : relabelTo(label)
      if (change) onRename(change)
      else onTyped(null)
    },
  })
  /** A page being typed is made when the window goes away. */
  const keepDraft = (label: string | null) =>
    store.noteLine(
      'new page',
      label && draft ? { kind: 'addPages', ...draft, pages: [{ id: crypto.randomUUID(), label }] } : null,
    )
  const shiftDraft = (out: boolean) => {
    if (!draft) return
    const to = out ? outdented(tree, draft.parentId) : indented(tree, site.homeId, { id: null, ...draft })
    if (to) setDraft(to)
  }

  // Numbers of four levels and more need more room than the two or three of most plans.
  const longestNumber = useMemo(() => Math.max(...tree.places.map(({ number }) => number.length)), [tree])
  const numberWidth = Math.max(52, 20 + longestNumber * 7.3)
  const template = `${numberWidth}px minmax(0, ${columns.length > 1 ? '0.9fr' : '1fr'}) ${columns.map((column) => column.width).join(' ')}${editable ? ` ${menuWidth}px` : ''}`
  return (
    <>
      <div
        role="treegrid"
        aria-label="Pages"
        aria-multiselectable
        aria-rowcount={rows.length + 1}
        aria-colcount={columns.length + (editable ? 2 : 1)}
        className="grid min-h-0 grid-rows-[36px_1fr]"
        onKeyDown={onKeyDown}
        onPaste={(event) => void onPaste(event)}
        onFocus={(event) =>
          (hadFocus.current =
            (event.target as HTMLElement).getAttribute('role') === 'row' || hadFocus.current)
        }
        onBlur={(event) => {
          if (event.relatedTarget && !event.currentTarget.contains(event.relatedTarget))
            hadFocus.current = false
        }}
      >
        <RegisterHead columns={columns} tracks={template} hasMenu={editable} />
        <div
          ref={scroller}
          role="rowgroup"
          data-drags={editable || undefined}
          className={`min-h-0 overflow-x-hidden overflow-y-auto ${dragged ? 'select-none [&_*]:!cursor-grabbing' : ''}`}
        >
          <div role="presentation" className="relative" style={{ height: virtualizer.getTotalSize() }}>
            {virtualizer.getVirtualItems().map(({ index, start }) => {
              const row = rows[index]!
              if (row.kind === 'draft')
                return (
                  <DraftRow
                    key="draft"
                    index={index}
                    top={start}
                    tracks={template}
                    depth={row.depth}
                    onDone={finishDraft}
                    onCancel={() => setDraft(null)}
                    onTyping={keepDraft}
                    onLevel={shiftDraft}
                  />
                )
              const { page } = row.place
              return (
                <RegisterRow
                  key={page.id}
                  row={row}
                  index={index}
                  top={start}
                  tracks={template}
                  columns={columns}
                  isHome={page.id === site.homeId}
                  isSelected={page.id === selected.id}
                  isChosen={chosenIds.has(page.id)}
                  isDragged={dragged?.ids.has(page.id) ?? false}
                  hasMenu={editable}
                  notes={openNotes.get(page.id) ?? 0}
                  others={othersAt.get(page.id) ?? null}
                  renamedFrom={renaming?.id === page.id ? renaming.was : null}
                  actions={actions}
                />
              )
            })}
            {dragged?.drop && (
              <div
                aria-hidden
                className="pointer-events-none absolute right-2 h-0.5 bg-lapis before:absolute before:-top-[3px] before:-left-1 before:size-2 before:rounded-full before:bg-lapis"
                style={{
                  top: dragged.drop.gap * rowHeight - 1,
                  left: numberWidth + dragged.drop.depth * levelWidth,
                }}
              />
            )}
          </div>
        </div>
      </div>
      {/* Beside the register: what is pressed in a menu is not for its rows. */}
      {menuAt && (
        <Suspense>
          <RowMenu
            place={menuAt}
            label={`What can be done with ${chosen.length === 1 ? selected.label : count(chosen.length, 'page')}`}
            commands={commands()}
            groups={editable ? 'plan' : 'elsewhere'}
            onEnd={endMenu}
          />
        </Suspense>
      )}
    </>
  )
}

function without(set: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(set)
  next.delete(id)
  return next
}
