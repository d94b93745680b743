const isSpace = (code: number) => code === 32 || (code >= 9 && code <= 13 && code !== 11)
const comma = 44
const [open, close] = [40, 41]

/** The URLs of a `srcset` and where they stand (HTML §4.8.4.4.10, "parsing a srcset attribute"). One pass. */
export function srcsetUrls(value: string): { offset: number; url: string }[] {
  const urls: { offset: number; url: string }[] = []
  let at = 0
  for (;;) {
    while (at < value.length && (isSpace(value.charCodeAt(at)) || value.charCodeAt(at) === comma)) at++
    if (at >= value.length) return urls
    const offset = at
    while (at < value.length && !isSpace(value.charCodeAt(at))) at++
    let end = at
    while (end > offset && value.charCodeAt(end - 1) === comma) end--
    urls.push({ offset, url: value.slice(offset, end) })
    // Commas at its end part it from the next; else its descriptors follow, up to a comma outside brackets.
    if (end < at) continue
    let depth = 0
    for (; at < value.length; at++) {
      const code = value.charCodeAt(at)
      if (code === open) depth = 1
      else if (code === close) depth = 0
      else if (code === comma && depth === 0) break
    }
  }
}
