import type { Spelling } from './spelling'

// Half a megabyte that most sites never need: fetched with the first sign that is not at hand.

let table: ((text: string) => string) | null = null
let loading: Promise<void> | null = null
let isLate = false
const listeners = new Set<() => void>()

async function load(): Promise<void> {
  loading ??= import('any-ascii').then(
    (module) => void (table = module.default),
    (error: unknown) => {
      // Asked for again with the next sign.
      loading = null
      throw error
    },
  )
  await loading
  if (!isLate) return
  isLate = false
  for (const listener of listeners) listener()
}

export const spelling: Spelling = {
  spell(sign) {
    if (table) return table(sign)
    isLate = true
    load().catch(() => {})
    return ''
  },
  load,
  whenLate(listener) {
    listeners.add(listener)
    return () => void listeners.delete(listener)
  },
}
