import { useState } from 'react'
import type { ChangeRequest } from '#core/change'
import type { EditedCopy, Finding, FindingPlace, Mend } from '#core/findings'
import { applyEdits, type TextEdit } from '#core/markup'
import type { Site } from '#core/site'
import { useSite } from './site-context'
import { fetchText } from './use-text'

const notFetched = 'The text could not be fetched: the server does not answer. Try again in a moment.'

type EditedPlace = Pick<FindingPlace, 'kind' | 'id' | 'slot'>

/** All that is edited of one text at once. */
interface EditedText {
  readonly place: EditedPlace
  readonly was: string
  readonly edits: TextEdit[]
  readonly copy?: EditedCopy
  /** Places of it at which findings of other texts want something done. */
  readonly elsewhere: Set<string>
}

type Chosen = readonly [finding: Finding, way: Mend]

/** The one way in which a finding can be mended without a choice; null where there is none, or several. */
export const sureWay = ({ mends }: Finding): Mend | null => {
  const [way, ...more] = mends.filter((one) => !one.isOther)
  return way && more.length === 0 ? way : null
}

function written({ kind, id, slot }: EditedPlace, text: string, was: string): ChangeRequest {
  if (kind === 'page')
    return { kind: 'setContent', pageId: id, ...(slot !== undefined && { slot }), text, was }
  return kind === 'file'
    ? { kind: 'setFile', fileId: id, text, was }
    : { kind: 'setTemplate', templateId: id, text, was }
}

function copied({ templates }: Site, place: EditedPlace, text: string, copy: EditedCopy): ChangeRequest {
  const basedOn = templates.find(({ id }) => id === place.id)?.basedOn ?? null
  const some = (ids: readonly string[]) => (ids.length > 0 ? ids : undefined)
  return {
    kind: 'addTemplate',
    templateId: crypto.randomUUID(),
    name: copy.name,
    text,
    basedOn,
    forPages: some(copy.forPages),
    rebased: some(copy.rebased),
    copies: copy.copies.map((one) => ({ ...one, templateId: crypto.randomUUID() })),
  }
}

/** Mends what was found, as changes like any other: asked about first where they touch more, and undone alike. */
export function useMend() {
  const { site, store } = useSite()
  const [problem, setProblem] = useState<string | null>(null)

  /** Mends several at once: all edits of one text are one change, and all of them one step of undo. */
  const mend = async (chosen: readonly Chosen[]): Promise<void> => {
    setProblem(null)
    const texts = new Map<string, EditedText>()
    const actId = crypto.randomUUID()
    for (const [finding, way] of chosen) {
      if ('change' in way) {
        store.change(way.change, false, actId)
        continue
      }
      const place = way.in ?? finding.place
      const key = `${place.kind} ${place.id} ${place.slot ?? ''} ${way.was} ${way.copy?.name ?? ''}`
      const text = texts.get(key) ?? { place, was: way.was, edits: [], copy: way.copy, elsewhere: new Set() }
      texts.set(key, text)
      for (const edit of way.edits) {
        // Of what several findings of other texts want done at one place the first is done: the rest is looked at again.
        const once = way.in && `${edit.start} ${edit.end}`
        if (once !== undefined && text.elsewhere.has(once)) continue
        if (once !== undefined) text.elsewhere.add(once)
        text.edits.push(edit)
      }
    }
    try {
      for (const { place, was, edits, copy } of texts.values()) {
        const text = applyEdits(await fetchText(site.id, was), edits)
        store.change(copy ? copied(site, place, text, copy) : written(place, text, was), false, actId)
      }
    } catch {
      setProblem(notFetched)
    }
  }
  return { mend, problem }
}
