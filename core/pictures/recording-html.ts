import { escapeAttribute, escapeText } from '#core/markup'
import { heightFor, roomy } from './picture-html'

/** A film, or a sound: the element that plays it. */
export type RecordingKind = 'video' | 'audio'

export interface ShownRecording {
  readonly kind: RecordingKind
  readonly address: string
  /** Of a film its own size in pixels. */
  readonly natural: { readonly width: number; readonly height: number } | null
  /** Words that stand below it; '' for none. */
  readonly caption: string
}

/**
 * The HTML that plays a recording, once somebody asks for it: until then a browser fetches how long it is and its first picture
 * (HTML §4.8.9, §4.8.10, §4.8.11.5).
 */
export function recordingHtml({ kind, address, natural, caption }: ShownRecording): string {
  const width = natural && Math.min(natural.width, roomy)
  const size = natural && width !== null ? ` width="${width}" height="${heightFor(natural, width)}"` : ''
  const shown = `<${kind} src="${escapeAttribute(address)}" controls preload="metadata"${size}></${kind}>`
  const words = caption === '' ? '' : `  <figcaption>${escapeText(caption)}</figcaption>\n`
  return `<figure>\n  ${shown}\n${words}</figure>`
}

const film = /\.(?:mp4|m4v|webm|ogv|mov)$/i
const sound = /\.(?:mp3|m4a|aac|ogg|oga|opus|wav|flac|weba)$/i

/** What a file is that browsers play, by what its name ends in; null for anything else. */
export const playedAs = (name: string): RecordingKind | null =>
  film.test(name) ? 'video' : sound.test(name) ? 'audio' : null

/** What cameras and telephones call what they take: some letters, then numbers alone. */
const ofCamera = /^\p{Lu}{0,5}[\p{Pd}_ ]?[\d\p{Pd}_ .~()]{3,}(?:WA\d+)?$/u

/** Words for a recording from what its file is called; '' where that is none. */
export const captionOf = (stem: string): string =>
  ofCamera.test(stem) ? '' : stem.replace(/[_\s]+/gu, ' ').trim()
