import type { HandleRef } from '../parts/editor/editor-handle'
import { putFitted } from './put-fitted'
import type { PastedPlain } from './use-pasting'
import { untilFetched } from '../parts/fetched'

const pastedWords = {
  markdown: { is: 'What you pasted looks like Markdown.', make: 'Make it HTML' },
  rows: { is: 'What you pasted looks like rows of a table.', make: 'Make it a table' },
  paragraphs: {
    is: 'What you pasted has paragraphs without tags, which browsers show as one.',
    make: 'Make paragraphs of it',
  },
} as const

/** Offers to make HTML of what was pasted as it is. */
export function PastedNotice({
  pasted: { from, text, kind },
  handle,
  onDone,
  onLeave,
}: {
  pasted: PastedPlain
  handle: HandleRef
  onDone: () => void
  onLeave: () => void
}) {
  async function make() {
    const texts = await untilFetched(() => import('./texts'))
    const written = text.replace(/\r\n?/g, '\n')
    const html = {
      markdown: () => texts.htmlOfMarkdown(written),
      rows: () => texts.cleanHtml(texts.htmlOfRows(texts.rowsInText(written) ?? [])),
      paragraphs: () => texts.htmlOfParagraphs(texts.paragraphsInText(written) ?? []),
    }[kind]()
    // Only while it stands where it was put, as it was put.
    if (handle.current?.text().startsWith(written, from))
      putFitted(handle.current, { from, to: from + written.length }, html, texts.fitInto)
    onDone()
  }
  return (
    <p role="status" className="flex flex-wrap gap-x-4 border-b border-rule bg-lapis-wash px-5 py-2 text-sm">
      <span>{pastedWords[kind].is}</span>
      <button type="button" className="link" onClick={() => void make()}>
        {pastedWords[kind].make}
      </button>
      <button type="button" className="link" onClick={onLeave}>
        Leave it as it is
      </button>
    </p>
  )
}
