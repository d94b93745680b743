import { readHtml } from '#core/markup'

/** What each of some texts says: equal for those that say the same, whatever their tags and links. */
export const saidByTexts = (_: unknown, texts: readonly string[]): readonly string[] =>
  texts.map((text) => readHtml(text).said)
