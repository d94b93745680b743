import { mayRole } from '#core/site'
import { Problem } from '#core/problems'
import type { Saved } from '../changes/changes'
import type { SiteOfSomebody } from '../rows/site-rows'
import { mostFoundTold } from '../words/find'
import { replaceInSite, type Replacing } from '../words/replace'
import { ownersOfWord, type SiteWord } from './look'

/** A word that is mistyped, and what is put in its place wherever it stands. */
export type MendingWord = Pick<SiteWord, 'word' | 'language'> &
  Pick<Replacing, 'by' | 'seen' | 'shown' | 'requestId'>

/**
 * Puts another word in the place of one that no dictionary has, wherever it stands in its language and whoever asks may write.
 * @throws Problem `changed-elsewhere` where it stands nowhere, `invalid` where tags stand within it, and those of `replaceInSite`
 */
export async function mendWord(
  { site, revision, role }: Pick<SiteOfSomebody, 'site' | 'revision' | 'role'>,
  accountId: string,
  { word, language, ...rest }: MendingWord,
  signal: AbortSignal,
): Promise<Saved> {
  const owners = await ownersOfWord(site, { word, language }, signal)
  const chosen = owners
    .filter(({ kind }) => kind === 'page' || mayRole(role, 'manage'))
    .slice(0, mostFoundTold)
  if (chosen.length === 0)
    throw new Problem('changed-elsewhere', { why: `“${word}” stands nowhere that you may write.` })
  const wanted = { words: word, isExact: true, isWhole: true, inSource: false }
  const saved = await replaceInSite(site, accountId, { ...rest, wanted, chosen }, signal)
  if (saved.revision === revision)
    throw new Problem('invalid', {
      why: `“${word}” has tags within it there. Go there, and write it by hand.`,
    })
  return saved
}
