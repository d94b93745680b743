import type { RippleView } from '#server/sites'
import { count } from './format'

type Counts = Pick<RippleView, 'movedCount' | 'linkCount' | 'addressCount' | 'brokenCount' | 'hidden'>

/** What a change would touch, as the rest of a sentence: `1 file changes name, 3 links are rewritten`. */
/** `what “aside” of 3 pages holds` */
function hiddenWords(hidden: Counts['hidden']): string {
  const slots = [...new Set(hidden.map(({ slot }) => `“${slot}”`))]
  const pages = new Set(hidden.map(({ pageId }) => pageId)).size
  return `what ${slots.join(' and ')} of ${count(pages, 'page')} ${pages === 1 ? 'holds' : 'hold'}`
}

export function rippleWords({ movedCount, linkCount, addressCount, brokenCount, hidden }: Counts): string {
  const parts = [
    movedCount > 0 && `${count(movedCount, 'file')} ${movedCount === 1 ? 'changes' : 'change'} name`,
    linkCount > 0 && `${count(linkCount, 'link')} ${linkCount === 1 ? 'is' : 'are'} rewritten`,
    addressCount > 0 &&
      `${count(addressCount, 'published address', 'published addresses')} ${addressCount === 1 ? 'changes, and the old one forwards' : 'change, and the old ones forward'}`,
    brokenCount > 0 && `${count(brokenCount, 'link')} in other pages will lead nowhere`,
    hidden.length > 0 && `${hiddenWords(hidden)} is kept and no longer shown`,
  ].filter((part) => part !== false)
  if (parts.length === 0) return 'no file changes its name and no link is touched'
  if (linkCount === 0 && brokenCount === 0 && movedCount > 0) parts.push('no link is touched')
  return parts.join(', ')
}

/** What a change has touched, as a sentence. */
export function rippleReport({ movedCount, linkCount, addressCount, hidden }: Counts): string {
  const parts = [
    (movedCount > 0 || hidden.length === 0) &&
      `${count(movedCount, 'file')} ${movedCount === 1 ? 'has a new name' : 'have new names'}`,
    linkCount > 0 && `${count(linkCount, 'link')} ${linkCount === 1 ? 'was' : 'were'} rewritten`,
    addressCount > 0 && `${count(addressCount, 'forwarding page')} left behind`,
    hidden.length > 0 && `${hiddenWords(hidden)} is kept, and no longer shown`,
  ].filter((part) => part !== false)
  const report = parts.join(', ')
  return `${report.charAt(0).toUpperCase()}${report.slice(1)}.`
}
