import { homeNameOf } from '#core/site'
import { encodePath } from '#core/markup'
import { publicAddressOf } from '#core/links'
import { type BroughtFile, folderOf } from '../brought'

const tags = /<(link|meta)\s([^<>]{1,2000})>/gi
const attributes = /([\w:-]+)\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s"'>]+))/g

/** The address that a page says is its own (RFC 6596), to search engines or to who shows it elsewhere; null where it says none. */
function addressSaid(head: string): string | null {
  let shared: string | null = null
  for (const [, tag, written = ''] of head.matchAll(tags)) {
    const said = new Map(
      [...written.matchAll(attributes)].map(([, name = '', ...values]) => [
        name.toLowerCase(),
        values.find((value) => value !== undefined)!.trim(),
      ]),
    )
    if (tag!.toLowerCase() === 'link') {
      if (/(^|\s)canonical(\s|$)/i.test(said.get('rel') ?? '')) return said.get('href') ?? null
    } else if (said.get('property')?.toLowerCase() === 'og:url') shared ??= said.get('content') ?? null
  }
  return shared
}

/** What is before a page's path in an address of it; null where it does not end so, or is no address of a site. */
function before(address: string, path: string): string | null {
  if (!/^https?:\/\//i.test(address) || !URL.canParse(address)) return null
  const { origin, pathname } = new URL(address)
  const folder = folderOf(path)
  // As hosts show pages, too: a folder for its home page, and a name without its ending.
  const forms =
    homeNameOf(path) === null ? [path, path.replace(/\.\w+$/, '')] : [path, folder, folder.slice(0, -1)]
  const named = forms
    .flatMap((form) => [form, encodePath(form)])
    .find((form) => pathname.endsWith(`/${form}`))
  return named === undefined
    ? null
    : publicAddressOf(origin + pathname.slice(0, pathname.length - named.length))
}

/**
 * Where visitors find a site that is brought in, by what its pages say of themselves: what most of those that say an
 * address have in front of the path at which they stand. '' where they do not agree, or say nothing.
 */
export function publicAddressIn(files: readonly BroughtFile[]): string {
  const counts = new Map<string, number>()
  let told = 0
  for (const { kind, path, text } of files) {
    if (kind !== 'page' || text === undefined) continue
    const end = text.search(/<\/head\s*>|<body[\s>]/i)
    const said = addressSaid(end < 0 ? text : text.slice(0, end))
    if (said === null) continue
    told += 1
    const address = before(said, path)
    if (address !== null) counts.set(address, (counts.get(address) ?? 0) + 1)
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  return most && most[1] * 2 > told ? most[0] : ''
}
