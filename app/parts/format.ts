const numbers = new Intl.NumberFormat('en')

/** `50,000`. */
export const number = (value: number): string => numbers.format(value)

import { count } from '#core/site'

export { count }

/** An address of a site without what nearly all begin and end with: `skerry.example/light`. */
export const shownAddress = (address: string): string => address.replace(/^https:\/\/|\/$/g, '')

/** A size in the unit a person would use; 1 KB is 1,000 bytes, as hosts bill it. */
export function size(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`
  if (bytes < 99_950) return `${(bytes / 1000).toFixed(1)} KB`
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} KB`
  return `${(bytes / 1_000_000).toFixed(1)} MB`
}

/** A moment as one says it: today by the hour, this year by the day. UTC until the browser knows better. */
export function moment(at: Date | string, now = new Date()): string {
  const date = new Date(at)
  const time = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  if (date.toDateString() === now.toDateString()) return `today ${time}`
  const sameYear = date.getFullYear() === now.getFullYear()
  return `${date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: sameYear ? undefined : 'numeric' })}, ${time}`
}

/** A day where its author is, as it is set for pages: `2031-06-14`. */
export const dayOf = (at: Date): string =>
  [at.getFullYear(), at.getMonth() + 1, at.getDate()].map((part) => String(part).padStart(2, '0')).join('-')

/** A stretch of time in words: `under a minute`, `4 minutes`. */
export function duration(seconds: number): string {
  if (seconds < 2) return 'a moment'
  if (seconds < 90) return `${Math.ceil(seconds)} seconds`
  return count(Math.round(seconds / 60), 'minute')
}
