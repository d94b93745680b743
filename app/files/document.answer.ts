import { Problem } from '#core/problems'
import { pageOfDocument, type PageOfDocument } from '#core/texts'

export interface DocumentQuestion {
  readonly name: string
  readonly bytes: Uint8Array
}
/** The page that a document becomes; or why it becomes none. */
export type DocumentAnswer = PageOfDocument | { readonly problem: string }

export async function pageRead(_: unknown, { name, bytes }: DocumentQuestion): Promise<DocumentAnswer> {
  try {
    return await pageOfDocument(name, bytes)
  } catch (error) {
    if (error instanceof Problem) return { problem: error.message }
    throw error
  }
}
