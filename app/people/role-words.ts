import type { Role } from '#core/site'

/** What somebody is to a site, in a word and in a sentence. */
export const roleWords: Readonly<Record<Role, { readonly word: string; readonly means: string }>> = {
  owner: { word: 'owner', means: 'may do everything' },
  partner: { word: 'partner', means: 'everything but removing the site' },
  writer: { word: 'writer', means: 'the plan, its pages and files' },
  reader: { word: 'reader', means: 'looks, and changes nothing' },
}
