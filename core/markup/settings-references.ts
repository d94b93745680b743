import type { Reference } from './reference'

/** A word of a line, quotes excluded: where it stands, and what it says. */
interface Word {
  readonly start: number
  readonly end: number
  readonly text: string
}

const directive = /^[ \t]*(ErrorDocument|FallbackResource|Redirect(?:Match|Permanent|Temp)?|RewriteRule|RewriteBase)[ \t]+(?=\S)/i // prettier-ignore

/** Words after a place in a line, in quotes or without. */
const wordsAfter = (line: string, from: number): Word[] =>
  [...line.slice(from).matchAll(/"([^"]*)"|[^\s"]+/g)].map(({ index, 0: whole, 1: quoted }) => {
    const start = from + index + (quoted === undefined ? 0 : 1)
    const text = quoted ?? whole
    return { start, end: start + text.length, text }
  })

/** An address of this host or another, and no sentence, expression or piece of a path. */
const isAddress = ({ text }: Word) => /^(\/|https?:\/\/)/i.test(text) && !/[$%]/.test(text)

/** Which word of a directive names what visitors get, and whether it has to be there. */
function targetOf(name: string, words: readonly Word[], isRelative: boolean): Word | undefined {
  switch (name) {
    case 'errordocument':
      return words[1]
    case 'fallbackresource':
      return words[0]
    case 'redirectpermanent':
    case 'redirecttemp':
      return words[1]
    case 'redirect':
    case 'redirectmatch': {
      const [first] = words
      const hasStatus = first !== undefined && /^(\d{3}|permanent|temp|seeother|gone)$/i.test(first.text)
      return words[hasStatus ? 2 : 1]
    }
    default: {
      const target = words[1]
      // From the folder that the file stands in, where nothing else is said.
      const isPath = target && isRelative && /^[\w-][\w./-]*\.\w+([?#]|$)/.test(target.text)
      return target && (isAddress(target) || isPath) ? target : undefined
    }
  }
}

/**
 * What a host's settings for a folder (`.htaccess`) show and send on to: pages for errors, redirections, rewritten
 * addresses. What is put together from pieces of the address that was asked for is none.
 */
export function findSettingsReferences(text: string): Reference[] {
  const references: Reference[] = []
  const isRelative = !/^[ \t]*RewriteBase[ \t]+"?\/[^\s"]/im.test(text)
  let at = 0
  for (const line of text.split('\n')) {
    const begun = directive.exec(line)
    if (begun) {
      const holder = begun[1]!
      const name = holder.toLowerCase()
      const target = targetOf(name, wordsAfter(line, begun[0].length), isRelative)
      if (target && (name === 'rewriterule' || isAddress(target)))
        references.push({
          start: at + target.start,
          end: at + target.end,
          href: target.text,
          syntax: 'plain',
          holder,
          // A host's own page may stand outside of the site.
          ...(name !== 'errordocument' && { ifThere: true as const }),
        })
    }
    at += line.length + 1
  }
  return references
}
