import type { Scheme } from '#core/site'
import { nameLabel } from './label-name'

export type LabelNamer = (label: string) => { name: string; nameless: boolean }
const namers = new WeakMap<Scheme, Map<string, LabelNamer>>()

/** Names of labels under one scheme in each language, each worked out once: an edit changes one label of thousands. */
export function namersOf(scheme: Scheme): (language: string) => LabelNamer {
  let byLanguage = namers.get(scheme)
  if (!byLanguage) namers.set(scheme, (byLanguage = new Map()))
  const all = byLanguage
  let last: { readonly language: string; readonly namer: LabelNamer } | null = null
  return (language) => {
    // Most pages are in the language of the one before them.
    if (last?.language === language) return last.namer
    let namer = all.get(language)
    if (!namer) all.set(language, (namer = namerOf(scheme, language)))
    last = { language, namer }
    return namer
  }
}

function namerOf(scheme: Scheme, language: string): LabelNamer {
  const known = new Map<string, { name: string; nameless: boolean }>()
  return (label) => {
    let name = known.get(label)
    if (!name) known.set(label, (name = nameLabel(label, scheme, language)))
    return name
  }
}
