import { parseHtml, walkHtml } from './html'

/** Elements whose line breaks and spaces are part of what is shown or run. */
const verbatim = new Set(['pre', 'textarea', 'script', 'style', 'listing', 'xmp', 'plaintext'])

/**
 * Indents each line but the first by `indent`, except inside elements where white space counts.
 * Lines of white space only become empty. `html` has `\n` line ends.
 */
export function indentHtml(html: string, indent: string): string {
  if (indent === '' || !html.includes('\n')) return html
  const fixed: { start: number; end: number }[] = []
  if (/<(pre|textarea|script|style|listing|xmp|plaintext)\b/i.test(html))
    walkHtml(parseHtml(html, false).root, (node) => {
      if (!('tagName' in node) || !verbatim.has(node.tagName) || !node.sourceCodeLocation) return
      const { startTag, startOffset, endTag, endOffset } = node.sourceCodeLocation
      fixed.push({ start: startTag?.endOffset ?? startOffset, end: endTag?.startOffset ?? endOffset })
    })
  // A line break inside a tag or a quoted attribute value is left alone as well.
  if (/<[^>]*\n/.test(html))
    walkHtml(parseHtml(html, false).root, (node) => {
      if (!('tagName' in node) || !node.sourceCodeLocation?.attrs) return
      for (const where of Object.values(node.sourceCodeLocation.attrs))
        fixed.push({ start: where.startOffset, end: where.endOffset })
    })
  let offset = 0
  return html
    .split('\n')
    .map((line, index) => {
      const start = offset
      offset += line.length + 1
      const inside = fixed.some((range) => range.start < start && start <= range.end)
      if (index === 0 || inside) return line
      return line.trim() === '' ? '' : indent + line
    })
    .join('\n')
}
