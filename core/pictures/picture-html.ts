import { escapeAttribute, escapeText } from '#core/markup'

/** A smaller copy of a picture. */
export interface PictureCopy {
  /** As it stands in an address. */
  readonly address: string
  /** Pixels. */
  readonly width: number
}

/** How a picture is shown. */
export interface ShownPicture {
  readonly address: string
  /** What it says to somebody who cannot see it; '' where it says nothing (HTML §4.8.4.4), null where that is not known yet. */
  readonly alt: string | null
  /** Its own size in pixels; null for one that has none, such as some drawings. */
  readonly natural: { readonly width: number; readonly height: number } | null
  /** The width it is shown at, in CSS pixels; null for its own. */
  readonly width: number | null
  readonly copies: readonly PictureCopy[]
  /** Whether it is fetched only when it comes near: for all but the first of a page. */
  readonly isLazy: boolean
  /** Whether it leads to the whole picture. */
  readonly leadsToFull: boolean
  /** Words that stand below it; '' for none. */
  readonly caption: string
  /** Whether it is a figure without words, too. */
  readonly isFigure?: boolean
  /** What else its tag says. */
  readonly rest?: readonly (readonly [name: string, value: string])[]
}

/** Pixels that most columns of text have room for. */
export const roomy = 800

type Size = { readonly width: number; readonly height: number }

/** The height that keeps the proportion, in whole pixels. */
export const heightFor = (natural: Size, width: number): number =>
  Math.max(1, Math.round((width * natural.height) / natural.width))
export const widthFor = (natural: Size, height: number): number =>
  Math.max(1, Math.round((height * natural.width) / natural.height))

/**
 * Widths of smaller copies that are worth making: the shown width and twice that, for screens with two
 * pixels to one; none where the picture itself is hardly larger.
 */
export function copyWidths(natural: Size, shown: number): number[] {
  return [shown, shown * 2].filter((width) => width * 1.25 <= natural.width)
}

/** The HTML that shows a picture. */
export function pictureHtml(picture: ShownPicture): string {
  const { address, alt, natural, isLazy, leadsToFull } = picture
  const width = picture.width ?? natural?.width ?? null
  const copies = [...picture.copies].sort((a, b) => a.width - b.width)
  const attributes: [string, string][] = [
    ['src', copies[0]?.address ?? address],
    ...(alt === null ? [] : [['alt', alt] as [string, string]]),
  ]
  if (copies.length > 0 && natural && width !== null) {
    const all = [...copies, { address, width: natural.width }]
    attributes.push(
      ['srcset', all.map((one) => `${one.address} ${one.width}w`).join(', ')],
      ['sizes', `(min-width: ${width}px) ${width}px, 100vw`],
    )
  }
  if (natural && width !== null)
    attributes.push(['width', String(width)], ['height', String(heightFor(natural, width))])
  if (isLazy) attributes.push(['loading', 'lazy'])
  for (const [name, value] of picture.rest ?? []) attributes.push([name, value])
  const image = `<img ${attributes.map(([name, value]) => `${name}="${escapeAttribute(value)}"`).join(' ')}>`
  const shown = leadsToFull ? `<a href="${escapeAttribute(address)}">${image}</a>` : image
  const { caption, isFigure = false } = picture
  if (caption === '' && !isFigure) return shown
  const words = caption === '' ? '' : `  <figcaption>${escapeText(caption)}</figcaption>\n`
  return `<figure>\n  ${shown}\n${words}</figure>`
}

/** How several pictures stand: each below the one before, or side by side as far as there is room. */
export type Arrangement = 'below' | 'beside'

/**
 * The HTML of several pictures.
 * @param pictures as `pictureHtml` writes them
 * @param listClass the class of the list that those are which stand side by side
 */
export function picturesHtml(
  pictures: readonly string[],
  arrangement: Arrangement,
  listClass: string,
): string {
  if (arrangement === 'below') return pictures.join('\n')
  const entries = pictures.map((html) =>
    html.includes('\n')
      ? `  <li>\n    ${html.replaceAll('\n', '\n    ')}\n  </li>\n`
      : `  <li>${html}</li>\n`,
  )
  return `<ul class="${escapeAttribute(listClass)}">\n${entries.join('')}</ul>`
}
