import { cleanLabel, type Outline, type OutlineNode } from './outline'

/** What home pages are called, in the languages that templates speak too; in small letters. */
const homeWords: ReadonlySet<string> = new Set([
  ...['home', 'home page', 'homepage', 'start', 'start page', 'welcome', 'index', 'front page', 'main page'],
  ...['الرئيسية', 'الصفحة الرئيسية', 'úvod', 'domů', 'úvodní stránka', 'forside', 'forsiden', 'hjem'],
  ...['startseite', 'willkommen', 'inicio', 'página principal', 'página de inicio', 'portada'],
  ...['etusivu', 'koti', 'accueil', "page d'accueil", 'page d’accueil', 'דף הבית', 'ראשי', 'עמוד הבית'],
  ...['inizio', 'pagina iniziale', 'ホーム', 'トップ', 'トップページ', 'startpagina', 'welkom'],
  ...['strona główna', 'początek', 'início', 'página inicial', 'главная', 'главная страница'],
  ...['hem', 'startsida', 'головна', 'головна сторінка'],
])

/** A label's letters, without signs around them: pictures of houses, stars. */
const plainWords = (label: string): string => {
  const words = label.replace(/^[^\p{L}\p{N}]+/u, '')
  let end = words.length
  while (end > 0 && !/[\p{L}\p{N}\p{M}]/u.test(words[end - 1]!)) end--
  return (words.slice(0, end) || label).normalize('NFC').toLowerCase()
}

/** A plan split into the home page and the top level. */
export interface SitePlan {
  readonly home: OutlineNode
  readonly top: readonly OutlineNode[]
  readonly notes: readonly string[]
}

/**
 * Takes a typed plan as a site's plan. The first line is the home page when every other line stands under it, or
 * when it is called like the site or like a home page; what stands under it then comes first at the top. Otherwise a home
 * page is put in front.
 * @param homeLabel what the home page is called where no line is
 */
export function planSite(
  outline: Pick<Outline, 'nodes' | 'notes' | 'hasHome'>,
  siteName: string,
  homeLabel = siteName,
): SitePlan {
  const notes = [...outline.notes]
  const [first, ...rest] = outline.nodes
  const added = { label: cleanLabel(homeLabel) || 'Home', trial: false, inMenus: true, children: [] }
  if (!first || outline.hasHome) return { home: added, top: outline.nodes, notes }
  const leaf = first.children.length === 0
  const called = plainWords(first.label)
  const isCalledSo = homeWords.has(called) || called === plainWords(cleanLabel(siteName))
  if (!first.trial && leaf && isCalledSo) return { home: first, top: rest, notes }
  const home = { ...first, children: [] }
  if (!first.trial && rest.every((node) => node.trial) && (!leaf || rest.length === 0))
    return { home, top: [...first.children, ...rest], notes }
  if (!first.trial && isCalledSo) {
    notes.push(
      `“${first.label}” is the home page: what stands under it comes at the top, in front of the other lines.`,
    )
    return { home, top: [...first.children, ...rest], notes }
  }
  notes.push(`No line is the home page, so one called “${added.label}” is put in front.`)
  return { home: added, top: outline.nodes, notes }
}
