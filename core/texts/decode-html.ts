/** An HTML file's text, and how its bytes were read. */
export interface DecodedHtml {
  readonly text: string
  /** Name of the encoding (Encoding Standard §4), in lower case. */
  readonly encoding: string
  /** What told it. */
  readonly toldBy: 'byte order mark' | 'declaration' | 'bytes'
}

/**
 * What Windows-1252 has where Latin-1 has control characters (Encoding Standard §9, index windows-1252), from
 * 0x80 on: some runtimes take the one for the other.
 */
const signs = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'
const withSigns = (text: string): string =>
  text.replace(/[\u0080-\u009f]/g, (sign) => signs[sign.charCodeAt(0) - 0x80]!)

/** Bytes as text. @param encoding one of the Encoding Standard, by its name there @throws RangeError for any other */
export function decodedAs(encoding: string, bytes: Uint8Array): string {
  const text = new TextDecoder(encoding).decode(bytes)
  return encoding === 'windows-1252' ? withSigns(text) : text
}

/** Bytes at the front in which a declaration is looked for (HTML §13.2.3.2). */
const prescanned = 1024

/** What a `meta` at the front declares, as far as anything can read it; null for nothing. */
function declaredEncoding(bytes: Uint8Array): string | null {
  const front = new TextDecoder('latin1')
    .decode(bytes.subarray(0, prescanned))
    .replace(/<!--[\s\S]*?-->/g, '')
  for (const [meta] of front.matchAll(/<meta[\s/][^>]*>/gi)) {
    const label = /\bcharset\s*=\s*["']?\s*([\w.:-]+)/i.exec(meta)?.[1]
    if (label === undefined) continue
    try {
      const { encoding } = new TextDecoder(label)
      // A declaration that can be read is no UTF-16, and one of a user's own is Windows-1252 (HTML §13.2.3.2).
      return encoding.startsWith('utf-16')
        ? 'utf-8'
        : encoding === 'x-user-defined'
          ? 'windows-1252'
          : encoding
    } catch {
      // No encoding that a browser knows: as if nothing had been declared.
    }
  }
  return null
}

/**
 * Reads the bytes of an HTML file as a browser would: by its byte order mark, else by what it declares, else by
 * its bytes, which are UTF-8 if they can be, and Windows-1252, which older programs of the West wrote.
 */
export function decodeHtml(bytes: Uint8Array): DecodedHtml {
  const starts = (...signs: number[]) => signs.every((sign, index) => bytes[index] === sign)
  const decode = (encoding: string, toldBy: DecodedHtml['toldBy']): DecodedHtml => ({
    text: decodedAs(encoding, bytes),
    encoding,
    toldBy,
  })
  if (starts(0xef, 0xbb, 0xbf)) return decode('utf-8', 'byte order mark')
  if (starts(0xff, 0xfe)) return decode('utf-16le', 'byte order mark')
  if (starts(0xfe, 0xff)) return decode('utf-16be', 'byte order mark')
  const declared = declaredEncoding(bytes)
  if (declared !== null && declared !== 'utf-8') return decode(declared, 'declaration')
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    return decode('utf-8', declared ? 'declaration' : 'bytes')
  } catch {
    // Whatever it declares, it is none.
    return decode('windows-1252', 'bytes')
  }
}
