/** Text as it stands between tags (HTML §13.1.2.1). */
export const escapeText = (text: string): string =>
  !/[&<>]/.test(text) ? text : text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')

/** Text as it stands in a double-quoted attribute (HTML §13.1.2.3). */
export const escapeAttribute = (text: string): string => escapeText(text).replace(/"/g, '&quot;')

/** Text as it stands in a single-quoted attribute (HTML §13.1.2.3). */
export const escapeSingleQuoted = (text: string): string => escapeText(text).replace(/'/g, '&#39;')

/** Percent-encodes all but unreserved characters, as RFC 6570 §3.2.2 expands a variable. */
export const encodeVariable = (text: string): string =>
  encodeURIComponent(text.replace(/\p{Surrogate}/gu, '\ufffd')).replace(
    /[!'()*]/g,
    (sign) => '%' + sign.charCodeAt(0).toString(16).toUpperCase(),
  )

/** A path as a URL path: each segment percent-encoded where RFC 3986 §3.3 asks for it. */
export const encodePath = (path: string): string => {
  // Nearly every path is made of unreserved characters, and needs no look at each segment.
  if (/^[A-Za-z0-9._~/-]*$/.test(path)) return path
  return path
    .split('/')
    .map((segment) => encodeURIComponent(segment).replace(/%(3A|40|24|2C|3B|2B|3D|26)/g, decodeURIComponent))
    .join('/')
}
