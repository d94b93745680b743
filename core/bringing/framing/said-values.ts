import { isErrorPage } from '#core/template'
import type { ReadPage } from '../reading/read-page'

/** A value of its page that a template says in the place of what each page said for itself. */
export type SaidValue = 'address' | 'page' | 'title' | 'description'

/**
 * What pages say of themselves in the same way, each by a value of its own: where one of them says anything else, or says
 * nothing though there would be something to say, it stays as it is written.
 * @param nameOf what `{page}` stands for
 * @returns values by what they are said as (`saidBy`)
 */
export function saidValues(
  group: readonly ReadPage[],
  nameOf: (pageId: string) => string,
): ReadonlyMap<string, SaidValue> {
  const valueOf: Readonly<Record<SaidValue, (page: ReadPage) => string | null>> = {
    // One that hosts show in place of others has no address that visitors know it by.
    address: ({ path }) => (isErrorPage(path) ? null : ''),
    page: ({ id }) => nameOf(id),
    title: ({ title }) => title?.text ?? null,
    description: ({ description }) => description?.text || null,
  }
  const isSaid = (key: string, name: SaidValue) =>
    group.every((page) => {
      const [said, value] = [page.said.get(key), valueOf[name](page)]
      if (said === undefined || value === null) return said === undefined && value === null
      return said !== null && (name === 'address' ? said.isOwn : said.value === value)
    })
  const values = new Map<string, SaidValue>()
  for (const key of new Set(group.flatMap(({ said }) => [...said.keys()]))) {
    const name = (['address', 'page', 'title', 'description'] as const).find((one) => isSaid(key, one))
    if (name) values.set(key, name)
  }
  return values
}
