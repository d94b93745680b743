import type { Reference } from './reference'
import { escapeAttribute } from './escape'

/** A new value for a reference, escaped for the place where it stands. */
export function writeReference(reference: Reference, href: string): string {
  // A module is named by a path only where that begins as one (HTML §8.1.6.2).
  if (reference.holder === 'import' && !/^\.{0,2}\//.test(href)) return writeReference(reference, `./${href}`)
  // Nothing in it has a meaning of its own anywhere.
  if (/^[\w./#-]*$/.test(href)) return href
  const value = writeValue(reference.syntax, href)
  const written =
    reference.inAttribute === undefined
      ? value
      : writeValue(reference.inAttribute === 'quoted' ? 'attribute' : 'unquoted-attribute', value)
  return reference.inText ? writeValue('xml', written) : written
}

function writeValue(syntax: Reference['syntax'], href: string): string {
  switch (syntax) {
    case 'attribute':
      // The quote in use is not known here, so both kinds are escaped; `>` may stand in an attribute.
      return href
        .replace(/&(?=#|[a-z0-9])/gi, '&amp;')
        .replace(/"/g, '&quot;')
        .replace(/'/g, '&#39;')
    case 'unquoted-attribute':
      return escapeAttribute(href).replace(/[\s'=`]/g, (sign) => `&#${sign.charCodeAt(0)};`)
    case 'srcset':
      return href.replace(/,/g, '%2C').replace(/\s/g, '%20').replace(/"/g, '%22').replace(/'/g, '%27')
    case 'css-string':
      return href.replace(/["'\\\n]/g, (sign) => `\\${sign.charCodeAt(0).toString(16)} `)
    case 'script-string':
      return href.replace(/["'`\\\n$]/g, (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`)
    case 'xml':
      return href.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`)
    case 'plain':
      return href.replace(
        /[\s<>"']/g,
        (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`,
      )
    case 'css-url':
      return href.replace(/["'()\\\s]/g, (sign) => `\\${sign.charCodeAt(0).toString(16)} `)
  }
}
