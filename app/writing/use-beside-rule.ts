import { useEffect, useState } from 'react'
import { rightFor } from '#core/change'
import type { SiteFile } from '#core/site'
import { choicesOf, saysBeside, starterStyle, withBeside } from '#core/style'
import { useSite, useWrittenTexts } from '../document/site-context'
import { fetchText } from '../document/use-text'
import { requestOf, type TextKey } from '../document/written-texts'

/** A style sheet that could say how pictures stand side by side. */
export interface BesideRule {
  readonly path: string
  readonly add: () => void
}

/** The style sheet that is to say how pictures stand side by side; null where one does, where there is none, and until it is known. */
export function useBesideRule(isWanted: boolean): BesideRule | null {
  const { site, names, store } = useSite()
  const texts = useWrittenTexts()
  const [found, setFound] = useState<{ readonly file: SiteFile; readonly css: string } | null>(null)
  const sheets = site.files.filter(({ kind, label }) => kind === 'style' && /\.css$/i.test(label))
  const all = sheets.map(({ hash }) => hash).join()
  useEffect(() => {
    if (!isWanted) return
    let isOver = false
    const textOf = async (file: SiteFile) =>
      texts.get({ kind: 'file', id: file.id })?.text ?? (await fetchText(site.id, file.hash))
    void Promise.all(sheets.map(textOf)).then(
      (css) => {
        const [file] = sheets
        if (!isOver) setFound(file && !css.some(saysBeside) ? { file, css: css[0]! } : null)
      },
      // A rule that is there already does no harm; one that nobody asked for might.
      () => {},
    )
    return () => {
      isOver = true
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the sheets are what they say
  }, [isWanted, all, site.id, texts])
  if (!isWanted || !found) return null
  const { file, css } = found
  const key: TextKey = { kind: 'file', id: file.id }
  if (!store.may(rightFor(requestOf(key, { text: '', was: file.hash }), site))) return null
  return {
    path: names.files.get(file.id) ?? file.label,
    add() {
      // What was made from choices stays so, and can be made from others still.
      const choices = choicesOf(css)
      texts.write(key, choices ? starterStyle(choices) : withBeside(css), file.hash)
    },
  }
}
