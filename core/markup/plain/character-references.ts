import { decodeHTML, decodeHTMLStrict } from 'entities'
import { leave } from './not-plain'

const reference = /&(?:#[xX]?[0-9A-Za-z]*;?|[A-Za-z0-9]+;?)/g

/** Those that were met, of the 2,231 that there are. */
const named = new Map<string, string>()

function decode(token: string): string {
  if (token.charCodeAt(1) === 0x23) return decodeNumber(token)
  if (!token.endsWith(';')) {
    // A sign that stands for itself; or a reference without its end, which depends on what follows.
    return decodeHTML(token) === token ? token : leave()
  }
  let text = named.get(token)
  if (text === undefined) {
    text = decodeHTMLStrict(token)
    if (text === token) return leave()
    named.set(token, text)
  }
  return text
}

/** A numeric one, but for those that are errors (HTML §13.2.5.80). */
function decodeNumber(token: string): string {
  const match = /^&#(?:([0-9]{1,7})|[xX]([0-9A-Fa-f]{1,6}));$/.exec(token)
  if (!match) return leave()
  const code = match[1] === undefined ? parseInt(match[2]!, 16) : Number(match[1])
  const isControl = (code < 0x20 && code !== 9 && code !== 10 && code !== 12) || (code >= 0x7f && code < 0xa0)
  const isSurrogate = code >= 0xd800 && code < 0xe000
  const isNoncharacter = (code >= 0xfdd0 && code <= 0xfdef) || (code & 0xfffe) === 0xfffe
  if (isControl || isSurrogate || isNoncharacter || code > 0x10ffff) return leave()
  return String.fromCodePoint(code)
}

/** A text with its character references resolved (HTML §13.2.5.72). */
export const resolved = (text: string): string =>
  text.includes('&') ? text.replace(reference, decode) : text
