import { isSaid, type WordsOwner } from '#core/change'
import { useSite } from '../../document/site-context'
import { placeSearch } from '../place-search'

/** Whose words they are, and the way there. */
export interface PlaceOfWords {
  readonly name: string | undefined
  /** What of it they are: `label`, `text`, `slot aside`. */
  readonly what: string
  readonly to: { readonly pathname: string; readonly search: string }
}

/** Tells places of words as they are spoken of. */
export function usePlaces(): (owner: WordsOwner, line: number) => PlaceOfWords {
  const { site, tree, names } = useSite()
  return (owner, line) => {
    const isLine = isSaid(owner)
    const view = owner.kind === 'page' ? (isLine ? 'plan' : 'pages') : 'template'
    const search = owner.kind === 'site' ? '' : placeSearch({ ...owner, line: isLine ? undefined : line })
    const name =
      owner.kind === 'site'
        ? 'All pages'
        : owner.kind === 'page'
          ? tree.byId.get(owner.id)?.label
          : owner.kind === 'template'
            ? site.templates.find((one) => one.id === owner.id)?.name
            : names.files.get(owner.id)
    return { name, what: whatOf(owner), to: { pathname: `/sites/${site.id}/${view}`, search } }
  }
}

const settings = {
  name: 'name of the site',
  titlePattern: 'pattern of titles',
  homeTitlePattern: 'title of the home page',
} as const

function whatOf(owner: WordsOwner): string {
  if (owner.kind === 'site') return settings[owner.field]
  if (isSaid(owner)) return owner.field
  if (owner.slot !== undefined) return `slot ${owner.slot}`
  return owner.kind === 'page' ? 'text' : owner.kind
}
