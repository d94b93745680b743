import type { RippleView } from '#server/sites'
import { isJson } from '../document/post'
import { away } from './away'

/** Why something was not done. */
export interface Told {
  readonly code: string
  readonly message: string
  readonly detail?: { readonly ripple?: RippleView } | null
}

/** Asks the server; rejects where it was called off. */
export async function ask<T extends object>(
  address: string,
  how: RequestInit,
): Promise<T | { readonly problem: Told }> {
  const silent = { problem: { code: 'away', message: away } }
  try {
    const response = await fetch(address, how)
    return isJson(response) ? ((await response.json()) as T | { readonly problem: Told }) : silent
  } catch (error) {
    if (how.signal?.aborted) throw error
    return silent
  }
}
