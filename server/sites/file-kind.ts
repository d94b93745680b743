import path from 'node:path'
import { fileTypeFromBuffer } from 'file-type'
import type { FileKind } from '#core/site'

/** Bytes at the front of a file that tell what it is. */
export const tellingBytes = 64_000

/** Texts have no signature: their extension says what they are, as long as they are texts. */
const textKinds: Readonly<Record<string, FileKind>> = {
  '.css': 'style', '.js': 'script', '.mjs': 'script', '.svg': 'image', '.txt': 'document', '.csv': 'document',
  '.md': 'document', '.html': 'document', '.htm': 'document', '.xml': 'document', '.json': 'document',
  '.ics': 'document', '.rtf': 'document',
} // prettier-ignore

/** Extensions that are written in more than one way, by the one a signature gives. */
const spellings: Readonly<Record<string, readonly string[]>> = {
  jpg: ['.jpg', '.jpeg'],
  tif: ['.tif', '.tiff'],
  mp4: ['.mp4', '.m4v'],
  // Office documents are archives, and audio and video share their containers.
  zip: ['.zip', '.docx', '.xlsx', '.pptx', '.odt', '.ods', '.odp', '.epub', '.kmz'],
}

/**
 * How pictures begin that have parts in front of what is looked for in them: a colour profile, say, that is
 * longer than what is known of the file here.
 */
const beginnings = [
  { bytes: Buffer.from('89504e470d0a1a0a', 'hex'), ext: 'png', mime: 'image/png' },
  { bytes: Buffer.from('ffd8ff', 'hex'), ext: 'jpg', mime: 'image/jpeg' },
  { bytes: Buffer.from('GIF8'), ext: 'gif', mime: 'image/gif' },
] as const

/** What a file is by its signature; null for one without. */
async function signatureOf(head: Buffer): Promise<{ readonly ext: string; readonly mime: string } | null> {
  const told = await fileTypeFromBuffer(head).catch(() => undefined)
  return told ?? beginnings.find(({ bytes }) => head.subarray(0, bytes.length).equals(bytes)) ?? null
}

const isText = (head: Buffer) => !head.includes(0)

const kindOfMime = (mime: string): FileKind => {
  if (mime.startsWith('image/')) return 'image'
  if (/^(application\/(pdf|zip|epub|vnd\.|msword|rtf)|text\/)/.test(mime)) return 'document'
  return 'other'
}

/**
 * What a file is, told by what is in it and not by what it is called; a name that says otherwise gets the
 * extension of what it is.
 * @param head at most the first `tellingBytes` of it
 */
export async function fileKindOf(
  name: string,
  head: Buffer,
): Promise<{ readonly kind: FileKind; readonly label: string }> {
  const extension = path.extname(name).toLowerCase()
  const told = await signatureOf(head)
  // A drawing is XML by its signature.
  if (told && told.mime !== 'application/xml') {
    const fits = [`.${told.ext}`, ...(spellings[told.ext] ?? [])].includes(extension)
    const label = fits ? name : `${extension ? name.slice(0, -extension.length) : name}.${told.ext}`
    return { kind: kindOfMime(told.mime), label }
  }
  const kind = textKinds[extension]
  if (!kind || !isText(head)) return { kind: 'other', label: name }
  // What is called a drawing and holds none is some other text.
  if (extension === '.svg' && !/<svg[\s/>]/i.test(head.toString('utf8')))
    return { kind: 'document', label: name }
  return { kind, label: name }
}
