import type { Followed } from '#core/findings'
import { askOutside, deadline } from '#server/platform'

/** How long one address may take, all its redirects together. */
const deadlineMs = 10_000
const headMs = 3_000
/** Redirects that are followed (Fetch §4.4 allows twenty; nobody who means well needs so many). */
export const mostRedirects = 8

const headers = { 'user-agent': 'Rubricant (looks whether a link still leads somewhere)', accept: '*/*' }

interface Answered {
  readonly status: number
  readonly location: string | null
}

/** One request, its body not waited for. */
async function ask(url: URL, method: 'HEAD' | 'GET', signal: AbortSignal): Promise<Answered> {
  const { status, headers: said } = await askOutside(url, method, headers, signal)
  return { status, location: said.location ?? null }
}

/** By HEAD, which costs least; by GET where a server does not know it, or says nothing to it. */
async function askEitherWay(url: URL, signal: AbortSignal): Promise<Answered> {
  const answered = await ask(url, 'HEAD', deadline(headMs, signal)).catch(() => null)
  return answered && answered.status < 400 ? answered : ask(url, 'GET', signal)
}

/** Answers that say that a program may not look, and nothing of whether a person may (RFC 9110 §15.5). */
const notForPrograms = new Set([401, 402, 403, 405, 406, 407, 429, 451, 501, 999])

/** Follows an address to where it leads now. Never fails: that it does not answer is an answer. */
export async function follow(address: string, cancelled: AbortSignal): Promise<Followed> {
  const signal = deadline(deadlineMs, cancelled)
  let url = new URL(address)
  /** Whether every redirect so far was for good: only then the new address is the one to write. */
  let isForGood = true
  let status: number | null = null
  try {
    for (let redirects = 0; redirects <= mostRedirects; redirects++) {
      const answered = await askEitherWay(url, signal)
      ;({ status } = answered)
      if (status >= 300 && status < 400 && status !== 304 && answered.location !== null) {
        if (!URL.canParse(answered.location, url)) break
        const next = new URL(answered.location, url)
        if (!/^https?:$/.test(next.protocol)) break
        isForGood &&= status === 301 || status === 308
        url = next
        continue
      }
      if (status === 404 || status === 410) return { outcome: 'gone', status, movedTo: null }
      if (notForPrograms.has(status)) return { outcome: 'unsure', status, movedTo: null }
      if (status >= 400) return { outcome: 'silent', status, movedTo: null }
      url.hash = ''
      return redirects > 0 && isForGood && url.href !== address
        ? { outcome: 'moved', status, movedTo: url.href }
        : { outcome: 'fine', status, movedTo: null }
    }
    return { outcome: 'silent', status, movedTo: null }
  } catch {
    return { outcome: 'silent', status: null, movedTo: null }
  }
}
