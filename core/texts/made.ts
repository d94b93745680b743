import type { HtmlElement } from '#core/markup'

/** An element that no parser read. */
export const made = (tagName: string, attributes: Readonly<Record<string, string>> = {}): HtmlElement =>
  ({
    nodeName: tagName,
    tagName,
    namespaceURI: 'http://www.w3.org/1999/xhtml',
    attrs: Object.entries(attributes).map(([name, value]) => ({ name, value })),
    childNodes: [],
    parentNode: null,
  }) as unknown as HtmlElement

/** What an element's own `style` says. */
export const styleOf = (element: HtmlElement): string =>
  element.attrs.find(({ name }) => name === 'style')?.value ?? ''
