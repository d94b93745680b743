import { Prec } from '@codemirror/state'
import { keymap } from '@codemirror/view'

/** What is asked for by a key, with Control or Command. */
export type AskedByKey = 'link' | 'strong' | 'em'
const askedBy: Readonly<Record<string, AskedByKey>> = { 'Mod-k': 'link', 'Mod-b': 'strong', 'Mod-i': 'em' }

/** Has the keys ask. */
export const askingKeys = (ask: (what: AskedByKey) => void) =>
  Prec.high(
    keymap.of(
      Object.entries(askedBy).map(([key, what]) => ({
        key,
        preventDefault: true,
        run() {
          ask(what)
          return true
        },
      })),
    ),
  )
