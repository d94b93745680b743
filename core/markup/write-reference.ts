import type { Reference } from './css'
import { escapeAttribute } from './escape'

/** A new value for a reference, escaped for the place where it stands. */
export function writeReference(reference: Reference, href: string): string {
  // Nothing in it has a meaning of its own anywhere.
  if (/^[\w./#-]*$/.test(href)) return href
  const written = writeValue(reference.syntax, href)
  if (reference.inAttribute === undefined) return written
  return writeValue(reference.inAttribute === 'quoted' ? 'attribute' : 'unquoted-attribute', written)
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
    case 'css-url':
      return href.replace(/["'()\\\s]/g, (sign) => `\\${sign.charCodeAt(0).toString(16)} `)
  }
}
