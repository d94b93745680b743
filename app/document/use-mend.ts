import { useState } from 'react'
import type { ChangeRequest } from '#core/change'
import type { EditedCopy, Finding, Mend } from '#core/findings'
import { applyEdits, type TextEdit } from '#core/markup'
import type { Site } from '#core/site'
import { useSite } from './site-context'
import { fetchText } from './use-text'

const notFetched = 'The text could not be fetched: the server does not answer. Try again in a moment.'

type Chosen = readonly [finding: Finding, way: Mend]

/** The one way in which a finding can be mended without a choice; null where there is none, or several. */
export const sureWay = ({ mends }: Finding): Mend | null => {
  const [way, ...more] = mends.filter((one) => !one.isOther)
  return way && more.length === 0 ? way : null
}

function written({ place: { kind, id, slot } }: Finding, text: string, was: string): ChangeRequest {
  if (kind === 'page')
    return { kind: 'setContent', pageId: id, ...(slot !== undefined && { slot }), text, was }
  return kind === 'file'
    ? { kind: 'setFile', fileId: id, text, was }
    : { kind: 'setTemplate', templateId: id, text, was }
}

function copied({ templates }: Site, { place }: Finding, text: string, copy: EditedCopy): ChangeRequest {
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

  /** Mends several at once: all edits of one text are one change. */
  const mend = async (chosen: readonly Chosen[]): Promise<void> => {
    setProblem(null)
    const texts = new Map<string, { finding: Finding; was: string; edits: TextEdit[]; copy?: EditedCopy }>()
    for (const [finding, way] of chosen) {
      if ('change' in way) {
        store.change(way.change)
        continue
      }
      const { kind, id, slot = '' } = finding.place
      const key = `${kind} ${id} ${slot} ${way.was} ${way.copy?.name ?? ''}`
      const text = texts.get(key) ?? { finding, was: way.was, edits: [], copy: way.copy }
      texts.set(key, text)
      text.edits.push(...way.edits)
    }
    try {
      for (const { finding, was, edits, copy } of texts.values()) {
        const text = applyEdits(await fetchText(site.id, was), edits)
        store.change(copy ? copied(site, finding, text, copy) : written(finding, text, was))
      }
    } catch {
      setProblem(notFetched)
    }
  }
  return { mend, problem }
}
