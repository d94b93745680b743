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

/**
 * Extensions by which browsers, hosts and programs take a file for what its bytes then have to be; those of one line
 * have signatures that do not tell them apart, or are one thing that is written in several ways.
 */
const families: readonly (readonly string[])[] = [
  ['jpg', 'jpeg', 'jfif', 'jpe'], ['png', 'apng'], ['gif'], ['webp'], ['avif'], ['heic', 'heif'], ['tif', 'tiff'], ['bmp'],
  ['ico', 'cur'], ['pdf', 'ai'], ['rtf'], ['woff'], ['woff2'], ['ttf', 'ttc'], ['otf'], ['wav'], ['flac'], ['avi'],
  ['mp3', 'mp2', 'mp1'], ['mp4', 'm4v', 'm4a', 'm4b', 'f4v', 'mov', '3gp', 'aac'], ['mpg', 'mpeg'], ['mid', 'midi'],
  ['ogg', 'oga', 'ogv', 'ogx', 'ogm', 'opus', 'spx'], ['webm', 'weba', 'mkv'], ['asf', 'wmv', 'wma'], ['gz', 'tgz', 'svgz'],
  // Archives (APPNOTE), as which many programs save what they make.
  [
    'zip', 'docx', 'docm', 'dotx', 'dotm', 'xlsx', 'xlsm', 'xltx', 'xltm', 'pptx', 'pptm', 'ppsx', 'ppsm', 'potx', 'potm',
    'odt', 'ott', 'ods', 'ots', 'odp', 'otp', 'odg', 'otg', 'epub', 'kmz', 'jar',
  ],
  // Documents of the binary form ([MS-CFB]).
  ['cfb', 'doc', 'dot', 'xls', 'xlt', 'ppt', 'pps', 'pot', 'pub', 'vsd', 'mpp', 'msg'],
] // prettier-ignore
const familyOf = new Map(families.flatMap((family) => family.map((one) => [one, family])))

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
  if (/^(application\/(pdf|zip|epub|vnd\.|msword|x-cfb|rtf)|text\/)/.test(mime)) return 'document'
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
    const family = familyOf.get(told.ext)
    const own = familyOf.get(extension.slice(1))
    // What no signature belongs to may be called anything.
    const isOther = extension === '' || (own ? own !== family : Object.hasOwn(textKinds, extension))
    const fits = !isOther || extension === `.${told.ext}` || told.ext === 'cfb'
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
