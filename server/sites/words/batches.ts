import type { TextKind } from '#core/find'
import { getTexts, textFrom } from '#server/contents'
import { pool } from '#server/platform'
import type { HeldText } from './owners'

/** Texts that are looked through at once: any may have some megabytes. */
const atOnce = 25

/** Goes through texts a few at a time; files in another encoding than UTF-8 are left out. */
export async function eachBatch(
  all: readonly HeldText[],
  signal: AbortSignal,
  work: (
    some: readonly HeldText[],
    texts: readonly { readonly text: string; readonly is: TextKind }[],
  ) => Promise<void>,
): Promise<void> {
  for (let at = 0; at < all.length; at += atOnce) {
    signal.throwIfAborted()
    const batch = all.slice(at, at + atOnce)
    const textOf = textFrom(await getTexts(pool(), batch.map(({ owner }) => owner.was))) // prettier-ignore
    const some = batch.filter(
      ({ owner, sizeBytes }) => sizeBytes === undefined || Buffer.byteLength(textOf(owner.was)) === sizeBytes,
    )
    await work(some, some.map(({ owner, is }) => ({ text: textOf(owner.was), is }))) // prettier-ignore
  }
}
