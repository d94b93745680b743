/** What typed or pasted text is an address to link to, as it stands in `href`; null for other text. */
export function addressIn(text: string): string | null {
  const typed = text.trim()
  if (typed === '' || /\s/.test(typed)) return null
  if (/^(https?|ftp):\/\/[^/]/i.test(typed) || /^(mailto|tel):./i.test(typed)) return typed
  if (/^[^@/:]+@[^@/:]+\.[^@/:.]+$/.test(typed)) return `mailto:${typed}`
  if (/^www\.[^./]+\.[^./]+/i.test(typed)) return `https://${typed}`
  return null
}

/** Whether an address leads to another site, which can be opened in a tab of its own. */
export const leadsElsewhere = (href: string): boolean => /^(https?|ftp):/i.test(href)
