import type { OutlineNode } from '../reading/outline'
import { framing } from '../reading/page-outline'
import type { ReadPage } from '../reading/read-page'
import { isPlain } from './own-attributes'

/** What a slot cannot take in: the page itself, and what is written by values of its own. */
export const isFixed = ({ tagName, range }: OutlineNode, text: string): boolean =>
  tagName === null
    ? /^<!doctype/i.test(text.slice(range!.start, range!.start + 9))
    : /^(html|head|body|frameset|title)$/.test(tagName)

/** Whether an element is around all of a page. */
export const isAround = ({ tagName }: OutlineNode) => tagName === 'html' || tagName === 'body'

/** Elements around all else that are looked through for what is in them. */
const mostWrappers = 4

/** The elements near the top of a page that a frame is made of, by their start tags. */
function frameKeys({ outline }: ReadPage): ReadonlySet<string> {
  const keys = new Set<string>()
  const visit = (nodes: readonly OutlineNode[], depth: number, wrappers: number): void => {
    const elements = nodes.filter(({ tagName }) => tagName !== null && framing.test(tagName))
    for (const node of elements) {
      const { tagName, key, tag, inside, children } = node
      const id = tag?.attributes.get('id')?.value
      // What is around all else is no more than that, and of what has a name or is there once the name tells enough.
      const isWrapper = elements.length === 1 && tagName === 'div' && wrappers < mostWrappers
      const isTop = isAround(node) || isWrapper
      const isOne = isTop || tagName === 'main'
      if (inside) keys.add(isOne ? `<${tagName}>` : id === undefined ? key : `<${tagName} #${id}>`)
      // What stands in the main part is the page's own (HTML §4.4.16).
      if (depth < 2 && tagName !== 'main')
        visit(children, isTop ? depth : depth + 1, wrappers + (isWrapper ? 1 : 0))
    }
  }
  visit(outline.top, 0, 0)
  return keys
}

/** How much two sets share: 1 for equal ones. */
function alike(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let both = 0
  for (const one of a) if (b.has(one)) both++
  return both / (a.size + b.size - both)
}

/** Pages share a frame where this much of what it is made of is the same. */
const alikeEnough = 0.6

/** Frames that are told apart; a site with more of them has none. */
const mostFrames = 200

/** What tells pages apart before all else: how browsers are told to read them, without which none looks as it did. */
const modeOf = ({ outline, text }: ReadPage): string =>
  outline.top.find((node) => node.tagName === null && node.range && isFixed(node, text))?.digest ?? ''

/** The language a page says it is in, its script and country aside; '' where it says none. */
const languageOf = ({ tops }: ReadPage): string =>
  (tops.get('html')?.attributes.get('lang')?.value ?? '').trim().toLowerCase().split('-')[0]!

/** What runs or is drawn around a page and that no value can stand for (`ownAttributes`): pages that differ in it share no frame. */
const aroundOf = ({ tops }: ReadPage): string =>
  [...tops]
    .flatMap(([tag, { attributes }]) =>
      [...attributes].flatMap(([name, { key }]) => (isPlain(name) ? [] : [`${tag} ${name}=${key}`])),
    )
    .join('\n')

/** The same for most of some pages; null where each has its own, so that it tells nothing apart. */
function usualAround(pages: readonly ReadPage[]): string | null {
  const counts = new Map<string, number>()
  for (const around of pages.map(aroundOf)) counts.set(around, (counts.get(around) ?? 0) + 1)
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  return most && most[1] * 2 > pages.length ? most[0] : null
}

/** Pages by the frame they have, whatever their files are called. */
export function byFrame(pages: readonly ReadPage[]): ReadPage[][] {
  const frames: {
    readonly keys: ReadonlySet<string>
    readonly mode: string
    readonly around: string
    /** '' as long as none of them says any. */
    language: string
    readonly members: ReadPage[]
  }[] = []
  const alone: ReadPage[][] = []
  const usual = usualAround(pages)
  for (const one of pages) {
    const keys = frameKeys(one)
    const mode = modeOf(one)
    const language = languageOf(one)
    // One page that starts a script of its own does not keep all others from sharing theirs.
    const around = usual === null ? '' : aroundOf(one)
    let best: (typeof frames)[number] | null = null
    let most = alikeEnough
    for (const frame of keys.size === 0 ? [] : frames) {
      if (frame.mode !== mode || frame.around !== around) continue
      // What pages of two languages have around them says two things.
      if (language !== '' && frame.language !== '' && frame.language !== language) continue
      const share = alike(keys, frame.keys)
      if (share >= most && (share > most || !best)) [best, most] = [frame, share]
    }
    if (best) {
      best.members.push(one)
      best.language ||= language
    } else if (keys.size > 0 && frames.length < mostFrames)
      frames.push({ keys, mode, around, language, members: [one] })
    else alone.push([one])
  }
  return [...frames.map(({ members }) => members), ...alone]
}
