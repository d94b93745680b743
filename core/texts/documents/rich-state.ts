/** Words for letters. */
export const signs: Readonly<Record<string, string>> = {
  tab: '\t', emdash: '—', endash: '–', bullet: '•', lquote: '‘', rquote: '’', ldblquote: '“', rdblquote: '”', emspace: ' ', enspace: ' ',
  qmspace: ' ', '~': '\u00a0', _: '\u2011', '{': '{', '}': '}', '\\': '\\',
} // prettier-ignore

/** Destinations that are read; any other that may be passed over is (`\*`), and these besides. */
export const read = new Set([
  'shppict',
  'fldinst',
  'bkmkstart',
  'footnote',
  'listtext',
  'pntext',
  'picprop',
  'sp',
  'sn',
  'sv',
])
export const passed = new Set(['colortbl', 'info', 'header', 'headerl', 'headerr', 'headerf', 'footer', 'footerl', 'footerr', 'footerf', 'nonshppict', 'filetbl', 'xe', 'tc', 'object', 'ftnsep', 'ftnsepc', 'aftnsep']) // prettier-ignore

/** Where what is read goes: text of the document, or what is said of it. */
export type Into = 'text' | 'nowhere' | 'fonts' | 'styles' | 'instruction' | 'mark' | 'place' | 'picture'

/** What holds in a group, and ends with it. */
export interface Held {
  into: Into
  /** Whether an unknown destination is to be passed over. */
  mayPass: boolean
  bold: boolean
  italic: boolean
  strike: boolean
  raised: 'sup' | 'sub' | null
  hidden: boolean
  size: number
  font: number
  /** Letters that stand for a sign by its number, for those who do not know that. */
  skips: number
  style: number | null
  outline: number | null
  list: number
  level: number
  inTable: boolean
  /** The style that is being told; null for one that is none of paragraphs. */
  told: Style | null
  /** What ends with the group. */
  ends: (() => void) | null
}

export const plain = {
  bold: false,
  italic: false,
  strike: false,
  raised: null,
  hidden: false,
  size: 24,
} as const
export const plainParagraph = { style: null, outline: null, list: 0, level: 0, inTable: false } as const

/** A style of paragraphs: its name and its level in the outline. */
export interface Style {
  name: string
  outline: number | null
}
