import { attributeOf, escapeAttribute, escapeText, type HtmlElement, isElement } from '#core/markup'

/** Attributes that say what is played and how large, in the order they are written in (HTML §4.8.8 and §4.8.9); nothing that plays by itself. */
const told = ['src', 'poster', 'width', 'height', 'preload', 'loop', 'muted']
const ofSource = ['src', 'type', 'media']
const ofTrack = ['src', 'kind', 'srclang', 'label', 'default']
const isFlag = (name: string) => name === 'loop' || name === 'muted' || name === 'default'

/** Whether an address can be fetched by whoever visits: no page's own memory (`blob:`), and nothing that runs. */
const isFetched = (address: string): boolean =>
  address !== '' && (!/^[a-z][a-z0-9+.-]*:/i.test(address) || /^https?:/i.test(address))

function tagOf(element: HtmlElement, name: string, attributes: readonly string[], first = ''): string {
  const written = attributes.flatMap((attribute) => {
    const value = attributeOf(element, attribute)?.trim()
    if (value === undefined) return []
    if (isFlag(attribute)) return [attribute]
    if (value === '') return []
    if (/^(?:src|poster)$/.test(attribute) && !isFetched(value)) return []
    if (/^(?:width|height)$/.test(attribute) && !/^\d{1,5}$/.test(value)) return []
    return [`${attribute}="${escapeAttribute(value)}"`]
  })
  return `<${[name, ...(first === '' ? [] : [first]), ...written].join(' ')}>`
}

/** Sound or a film as whoever visits can play it, from where it was; null where that cannot be fetched. */
export function mediaHtml(element: HtmlElement): string | null {
  const inside = element.childNodes.filter(isElement)
  const within = (tag: string, attributes: readonly string[]) =>
    inside
      .filter((one) => one.tagName === tag && isFetched(attributeOf(one, 'src')?.trim() ?? ''))
      .map((one) => tagOf(one, tag, attributes))
  const isWhole = isFetched(attributeOf(element, 'src')?.trim() ?? '')
  // An address of its own goes before all others.
  const sources = isWhole ? [] : within('source', ofSource)
  if (!isWhole && sources.length === 0) return null
  const { tagName: tag } = element
  return `${tagOf(element, tag, told, 'controls')}${sources.join('')}${within('track', ofTrack).join('')}</${tag}>`
}

/**
 * What stands in a frame, a map or a film of somebody else's as a link to it: a frame would fetch strangers' scripts for whoever
 * visits, and that is for the author to want. Null where it is of no other site.
 */
export function frameHtml(element: HtmlElement): string | null {
  const address = attributeOf(element, 'src')?.trim() ?? ''
  const whole = address.startsWith('//') ? `https:${address}` : address
  const url = URL.canParse(whole) ? new URL(whole) : null
  // What nobody sees counts visitors. No link stands in another (HTML §4.5.1).
  const isSeen =
    !/display:\s*none/i.test(attributeOf(element, 'style') ?? '') &&
    !/^[01]$/.test(attributeOf(element, 'width') ?? '')
  if (!isSeen || !url || !/^https?:$/.test(url.protocol) || isInLink(element)) return null
  const words = attributeOf(element, 'title')?.replace(/\s+/g, ' ').trim() || url.host
  return `<a href="${escapeAttribute(url.href)}">${escapeText(words)}</a>`
}

function isInLink(element: HtmlElement): boolean {
  for (let at = element.parentNode; at && 'tagName' in at; at = at.parentNode)
    if (at.tagName === 'a') return true
  return false
}
