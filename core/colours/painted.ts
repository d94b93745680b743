import type { HtmlElement } from '#core/markup'
import type { Hints, Winning } from './cascade'
import type { Colour } from './contrast'
import type { Customs } from './custom'
import { isControl, type Letters, lettersOf, usualLetters } from './letters'
import { customsOf, saidBy, type SaidOf, wordOf } from './said'
import { type ColourScheme, over, type Shade, systemColour } from './shades'
import type { DeclaredAt } from './sheet-rules'
import { readBackground, readColourValue, readLength } from './values'

/** How the text of an element is seen, as far as its styles tell. */
export interface Painted {
  /** Which of its colours the browser gives, by `color-scheme`. */
  readonly scheme: ColourScheme
  readonly text: TextColour
  /** What is behind the text; null where a picture is, or where it stands over others. */
  readonly ground: Colour | null
  /** What all of it is seen through: how much is left of it, and what is behind. */
  readonly veils: readonly { readonly opacity: number; readonly ground: Colour | null }[]
  readonly letters: Letters
  /** Whether a filter, a shadow of the letters or the like makes of the colours what is not worked out here. */
  readonly isAltered: boolean
  readonly hasShadow: boolean
  /** Whether its text cannot be seen, though elements in it may be. */
  readonly isHidden: boolean
  /** Whether nothing of it, and in it, is shown. */
  readonly isGone: boolean
  readonly customs: Customs
}

interface TextColour {
  /** Null where it cannot be known. */
  readonly shade: Shade | null
  /** Where that is written; null for the browser's own and for old attributes. */
  readonly at: DeclaredAt | null
}

/** What a page begins with, and where that is needed again. */
export interface PaintOptions {
  /** The font size of the root element, in pixels. */
  readonly rootPx: number | null
  /** Whether the reader asks for dark colours. */
  readonly isDarkAsked: boolean
  /** In a page of quirks: the colour of the text that tables begin with again (Quirks Mode §3.4). */
  readonly quirksText: TextColour | null
}

export function paintedPage(isDark: boolean): Painted {
  const scheme = isDark ? 'dark' : 'light'
  return {
    ...{ scheme, veils: [], letters: usualLetters, isAltered: false, hasShadow: false },
    ...{ isHidden: false, isGone: false, customs: new Map() },
    text: { shade: systemColour('canvastext', scheme), at: null },
    ground: systemColour('canvas', scheme),
  }
}

/** The set that an element's own word chooses (CSS Color Adjustment 1 §2.1). */
function schemeOf(said: SaidOf, around: ColourScheme, isDarkAsked: boolean): ColourScheme {
  const schemes = wordOf(said, 'color-scheme')
  if (schemes === null) return around
  const knowsDark = /\bdark\b/.test(schemes)
  if (isDarkAsked && knowsDark) return 'dark'
  return knowsDark && !/\blight\b/.test(schemes) ? 'dark' : 'light'
}

function textOf(
  element: HtmlElement,
  said: SaidOf,
  hint: Shade | undefined,
  around: TextColour,
  scheme: ColourScheme,
): TextColour {
  const of = (name: string): TextColour => ({ shade: systemColour(name, scheme), at: null })
  const start = hint
    ? { shade: hint, at: null }
    : element.tagName === 'a' && element.attrs.some(({ name }) => name === 'href')
      ? of('linktext')
      : element.tagName === 'mark'
        ? of('marktext')
        : isControl(element)
          ? of('buttontext')
          : around
  const own = said('color')
  if (!own) return start
  const word = own.value.trim().toLowerCase()
  const colour = readColourValue(word, scheme)
  if (word === 'inherit' || word === 'unset' || colour === 'currentcolor') return around
  if (word === 'initial') return { ...of('canvastext'), at: own.at }
  if (colour === 'unknown') return { shade: null, at: null }
  return colour ? { shade: colour, at: own.at } : start
}

/** What changes the colours of an element and of all in it. */
function altersColours(said: SaidOf): boolean {
  const changes = ['filter', 'mix-blend-mode'].some(
    (property) => !/^(none|normal|initial|unset|blur\(.*\))$/.test(wordOf(said, property) ?? 'none'),
  )
  return (
    changes ||
    said('-webkit-text-fill-color') !== null ||
    /\btext\b/.test(wordOf(said, 'background-clip') ?? wordOf(said, '-webkit-background-clip') ?? '')
  )
}

/** Whether it stands over what is not around it in the text. */
const standsOver = (said: SaidOf) => /^(absolute|fixed|sticky)$/.test(wordOf(said, 'position') ?? '')

function groundOf(
  { tagName }: HtmlElement,
  said: SaidOf,
  hints: Hints,
  { shade: text }: TextColour,
  behind: Colour | null,
  scheme: ColourScheme,
): Colour | null {
  const fill = said('background-color')
  const picture = said('background-image')
  const hasPicture = !picture
    ? (hints.hasPicture ?? false)
    : picture.of === 'background'
      ? readBackground(picture.value, scheme).hasPicture
      : !/^(none|initial|unset)$/i.test(picture.value.trim())
  if (hasPicture) return null
  const colour = !fill
    ? (hints.ground ??
      systemColour(tagName === 'mark' ? 'mark' : tagName === 'button' ? 'buttonface' : '', scheme))
    : fill.of === 'background'
      ? readBackground(fill.value, scheme).colour
      : readColourValue(fill.value, scheme)
  const shade = colour === 'currentcolor' ? (text ?? 'unknown') : colour
  if (shade === 'unknown') return null
  if (shade === null) return behind
  return shade.alpha === 1 ? shade : behind && over(shade, behind)
}

function opacityOf(said: SaidOf): number {
  const word = wordOf(said, 'opacity')
  const opacity = word === null ? 1 : word.endsWith('%') ? Number(word.slice(0, -1)) / 100 : Number(word)
  return Number.isNaN(opacity) ? 1 : Math.min(1, Math.max(0, opacity))
}

/** What keeps text from view that is there for screen readers, or is put where nobody looks. */
function isOutOfSight(said: SaidOf): boolean {
  const pxOf = (property: string) => readLength(wordOf(said, property) ?? '', 16, 16)
  const isFar = (property: string) => (pxOf(property) ?? 0) <= -99
  const isTiny = (property: string) => (pxOf(property) ?? 2) <= 1
  if (isFar('text-indent')) return true
  if (!/^(absolute|fixed)$/.test(wordOf(said, 'position') ?? '')) return false
  const isClipped = ['clip', 'clip-path'].some(
    (property) => !/^(auto|none)$/.test(wordOf(said, property) ?? 'none'),
  )
  return isClipped || isFar('left') || isFar('top') || (isTiny('width') && isTiny('height'))
}

function isGoneBy(element: HtmlElement, said: SaidOf): boolean {
  const display = wordOf(said, 'display')
  return display === null ? element.attrs.some(({ name }) => name === 'hidden') : display === 'none'
}

const mostVeils = 20

/** How an element is painted in what is around it. */
export function paint(
  element: HtmlElement,
  winning: Winning,
  hints: Hints,
  around: Painted,
  { rootPx, isDarkAsked, quirksText }: PaintOptions,
): Painted {
  const customs = customsOf(winning, around.customs)
  const said = saidBy(winning, customs)
  const scheme = schemeOf(said, around.scheme, isDarkAsked)
  // The root element's word is that of the page.
  const begun =
    element.tagName === 'html' && scheme !== around.scheme ? paintedPage(scheme === 'dark') : around
  const startsAnew = element.tagName === 'table' && quirksText !== null
  const text = textOf(element, said, hints.colour, startsAnew ? quirksText : begun.text, scheme)
  const letters = lettersOf(element, said, { hint: hints.fontSize, rootPx, startsAnew }, around.letters)
  const behind = standsOver(said) ? null : begun.ground
  const opacity = opacityOf(said)
  const visibility = wordOf(said, 'visibility')
  const shadow = wordOf(said, 'text-shadow')
  return {
    scheme,
    text,
    ground: groundOf(element, said, hints, text, behind, scheme),
    // Nobody looks through so many; what is behind them is taken as not known.
    veils:
      opacity < 1 && around.veils.length < mostVeils
        ? [...around.veils, { opacity, ground: around.veils.length + 1 < mostVeils ? behind : null }]
        : around.veils,
    letters,
    isAltered: around.isAltered || altersColours(said),
    hasShadow: shadow === null ? around.hasShadow : !/^(none|initial)$/.test(shadow),
    isHidden: visibility === null ? around.isHidden : /^(hidden|collapse)$/.test(visibility),
    isGone: isGoneBy(element, said) || opacity === 0 || letters.px === 0 || isOutOfSight(said),
    customs,
  }
}
