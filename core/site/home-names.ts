/** Names of home pages, the one that servers look for first in front. */
export const homeNames: readonly string[] = ['index', 'default', 'home', 'welcome', 'start']

/** A home page's name in small letters, without its ending; null for any other page. */
export function homeNameOf(path: string): string | null {
  const name = path
    .slice(path.lastIndexOf('/') + 1)
    .replace(/\.\w+$/, '')
    .toLowerCase()
  return homeNames.includes(name) ? name : null
}
