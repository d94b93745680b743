import type { CompletionContext, CompletionResult } from '@codemirror/autocomplete'
import { htmlLanguage } from '@codemirror/lang-html'
import type { Extension } from '@codemirror/state'

/** Something of the site that a link can lead to. */
export interface LinkTarget {
  readonly label: string
  /** From the top of the site, as it stands in an address: `/birds/terns.html`. */
  readonly address: string
  readonly isPicture: boolean
  readonly isPage: boolean
}

/** As many as are looked through; of more, a further letter leaves fewer. */
const listedAtMost = 60

/** An address that is being written, as far as it goes. */
const inAddress = /\b(href|src|srcset|poster|action|data)\s*=\s*(["'])([^"'<>]*)$/i

/**
 * Pages and files to link to, found by a part of their label or their path: nobody types a path.
 * @param targets what there is to link to now
 */
export const linkCompletion = (targets: () => readonly LinkTarget[]): Extension =>
  htmlLanguage.data.of({
    autocomplete({ state, pos }: CompletionContext): CompletionResult | null {
      const before = state.doc.sliceString(Math.max(0, pos - 1_000), pos)
      const match = inAddress.exec(before)
      if (!match) return null
      const [, attribute = '', , typed = ''] = match
      // To elsewhere, or to a place in a page, which has words of its own.
      if (/^([a-z]+:|\/\/)|#/i.test(typed)) return null
      const wanted = typed.toLowerCase().replace(/^\//, '')
      const wantsPicture = /^(src|srcset|poster)$/i.test(attribute)
      const options = targets()
        .filter(
          ({ label, address, isPicture }) =>
            (!wantsPicture || isPicture) &&
            (label.toLowerCase().includes(wanted) || address.toLowerCase().includes(wanted)),
        )
        .slice(0, listedAtMost)
        .map(({ label, address, isPicture }) => ({
          label,
          detail: address,
          apply: address,
          type: isPicture ? 'variable' : 'text',
        }))
      return { from: pos - typed.length, options, filter: false }
    },
  })
