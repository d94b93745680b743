import { isUtf8 } from 'node:buffer'
import type { BroughtFile, Remark } from '#core/bringing'
import { fileSyntaxOf, mayRefer } from '#core/markup'
import { decodeHtml } from '#core/texts'

/** A file that waits, as far as it has to be read. */
export interface FileToRead extends Omit<BroughtFile, 'text'> {
  /** Null where nothing in it is read. */
  readonly bytes: Uint8Array | null
}

/** A file as it is understood, with the text it has; and what is told of how it is written. */
export function broughtFile({ bytes, ...file }: FileToRead): {
  readonly file: BroughtFile
  readonly remark: Remark | null
} {
  if (bytes === null) return { file, remark: null }
  if (file.kind === 'page') {
    const { text, encoding, toldBy } = decodeHtml(bytes)
    const isOther = encoding !== 'utf-8'
    return {
      file: { ...file, text: text.replaceAll('\0', '\ufffd').toWellFormed() },
      remark: isOther
        ? {
            path: file.path,
            why: `It is written in ${encoding}, as its ${toldBy} ${toldBy === 'bytes' ? 'say' : 'says'}; it goes out as UTF-8.`,
          }
        : null,
    }
  }
  if (file.kind === 'style')
    return { file: { ...file, text: decodeHtml(bytes).text.toWellFormed() }, remark: null }
  return { file: { ...file, ...textToMend(file, bytes) }, remark: null }
}

/** What a script, a drawing or data says, where it may refer to other files; nothing of one that is no UTF-8. */
function textToMend(
  { path, sizeBytes }: Pick<FileToRead, 'path' | 'sizeBytes'>,
  bytes: Uint8Array,
): { text?: string } {
  const syntax = fileSyntaxOf(path, sizeBytes)
  if (syntax === null || !isUtf8(bytes)) return {}
  const text = new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes)
  return mayRefer(text, syntax) ? { text } : {}
}
