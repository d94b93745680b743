import type { RippleView, Saved } from '#server/sites'

/** What came of a request: what is new, why it was refused, or that nobody could be reached. */
export type Answer =
  | Saved
  | {
      readonly problem: {
        readonly code: string
        readonly message: string
        readonly detail: { readonly now?: string; readonly ripple?: RippleView } | null
      }
    }
  | { readonly unreachable: string | null }

export const asJson = { 'content-type': 'application/json' }
export const isJson = (response: Response): boolean =>
  /^application\/json\b/.test(response.headers.get('content-type') ?? '')

/** An answer that takes longer is not waited for: the connection may be gone without a word. */
const answerMs = 10_000

const refused = (code: string, message: string): Answer => ({ problem: { code, message, detail: null } })

/** Asks the server for a change. Never fails: what is not answered is to be asked for again. */
export async function post(address: string, request: object): Promise<Answer> {
  const body = JSON.stringify(request)
  try {
    const response = await fetch(address, {
      method: 'POST',
      headers: asJson,
      body,
      signal: AbortSignal.timeout(answerMs + Math.round(body.length / 100)),
    })
    const { status } = response
    // Of whoever is signed out nothing is refused: it waits until they are back.
    const isRefusal = status >= 400 && status < 500 && status !== 401
    if (response.ok || (isRefusal && isJson(response))) return await response.json()
    if (status === 404) return refused('gone', 'This site is no longer there.')
    // Refused before the application saw it: asked for again, it would be refused again.
    if (isRefusal && status !== 408 && status !== 429) {
      const message = (await response.text()).slice(0, 300)
      return refused('refused', message || 'The server does not take this.')
    }
    const told = isJson(response) ? ((await response.json()) as { problem?: { message?: string } }) : null
    return { unreachable: told?.problem?.message ?? null }
  } catch {
    return { unreachable: null }
  }
}
