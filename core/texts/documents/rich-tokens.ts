import { decodedAs } from '../decode-html'

/** What a text in RTF (Rich Text Format Specification 1.9.1) is made of. */
export type RichToken =
  | { readonly kind: 'open' | 'close' }
  /** A control word with its number, or a control symbol. */
  | { readonly kind: 'word'; readonly name: string; readonly number: number | null }
  /** A byte in the code page that is set. */
  | { readonly kind: 'byte'; readonly byte: number }
  /** Letters of ASCII. */
  | { readonly kind: 'text'; readonly text: string }
  /** Bytes as they are (`\bin`). */
  | { readonly kind: 'data'; readonly bytes: Uint8Array }

/** Whether bytes begin as RTF does. */
export const isRichText = (bytes: Uint8Array): boolean =>
  [...'{\\rtf'].every((letter, at) => bytes[at] === letter.charCodeAt(0))

const isLetter = (code: number) => (code >= 97 && code <= 122) || (code >= 65 && code <= 90)
const isDigit = (code: number) => code >= 48 && code <= 57
const [open, close, backslash, space, minus, quote] = [0x7b, 0x7d, 0x5c, 0x20, 0x2d, 0x27]
const isLineEnd = (code: number) => code === 10 || code === 13

/** Letters of a control word, and of its number, at most ("Control Word" of the specification). */
const longestWord = 32
const longestNumber = 10

/** Goes through the bytes of a text in RTF, once. */
export function* richTokens(bytes: Uint8Array): Generator<RichToken> {
  const letters = (from: number, to: number) => String.fromCharCode(...bytes.subarray(from, to))
  let at = 0
  while (at < bytes.length) {
    const code = bytes[at]!
    if (code === open || code === close) {
      yield { kind: code === open ? 'open' : 'close' }
      at += 1
    } else if (isLineEnd(code) || code === 0) at += 1
    else if (code > 127) {
      yield { kind: 'byte', byte: code }
      at += 1
    } else if (code !== backslash) {
      const from = at
      // In pieces, since no more letters than so are made a string at once.
      while (
        at < bytes.length &&
        at - from < 4_096 &&
        bytes[at]! <= 127 &&
        bytes[at] !== open &&
        bytes[at] !== close &&
        bytes[at] !== backslash &&
        !isLineEnd(bytes[at]!) &&
        bytes[at] !== 0
      )
        at += 1
      yield { kind: 'text', text: letters(from, at) }
    } else {
      const next = bytes[at + 1] ?? 0
      if (next === quote) {
        const byte = parseInt(letters(at + 2, at + 4), 16)
        if (byte >= 0) yield { kind: 'byte', byte }
        at += 4
      } else if (!isLetter(next)) {
        yield { kind: 'word', name: isLineEnd(next) ? 'par' : String.fromCharCode(next), number: null }
        at += 2
      } else {
        const from = ++at
        while (at - from < longestWord && isLetter(bytes[at] ?? 0)) at += 1
        const name = letters(from, at)
        const digits = at
        if (bytes[at] === minus && isDigit(bytes[at + 1] ?? 0)) at += 1
        while (at - digits < longestNumber && isDigit(bytes[at] ?? 0)) at += 1
        const number = at === digits ? null : Number(letters(digits, at))
        if (bytes[at] === space) at += 1
        if (name === 'bin') {
          const size = Math.max(0, number ?? 0)
          yield { kind: 'data', bytes: bytes.subarray(at, at + size) }
          at += size
        } else yield { kind: 'word', name, number }
      }
    }
  }
}

/** Encodings by the character sets that fonts name (`\fcharset`), as the Encoding Standard calls them. */
const encodings: Readonly<Record<number, string>> = {
  77: 'macintosh', 128: 'shift_jis', 129: 'euc-kr', 134: 'gbk', 136: 'big5', 161: 'windows-1253', 162: 'windows-1254',
  163: 'windows-1258', 177: 'windows-1255', 178: 'windows-1256', 186: 'windows-1257', 204: 'windows-1251', 222: 'windows-874',
  238: 'windows-1250',
} // prettier-ignore
const pages: Readonly<Record<number, string>> = { 932: 'shift_jis', 936: 'gbk', 949: 'euc-kr', 950: 'big5', 10000: 'macintosh', 65001: 'utf-8' } // prettier-ignore

/** Bytes as text by a code page (`\ansicpg`) or a font's character set; by Windows-1252 where it is none that is known. */
export function decoded(bytes: Uint8Array, codePage: number | null, charset: number | null): string {
  const name =
    (charset === null ? undefined : encodings[charset]) ??
    (codePage === null ? undefined : (pages[codePage] ?? `windows-${codePage}`)) ??
    'windows-1252'
  try {
    return decodedAs(name, bytes)
  } catch {
    return decodedAs('windows-1252', bytes)
  }
}
