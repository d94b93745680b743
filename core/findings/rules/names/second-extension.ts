import { inFile, inPage, type Rule } from '../../rule'

const twice = /\.(html?|css|js|jpe?g|png|gif|svg|webp|pdf)\.(txt|html?|doc|bak|old|orig|copy|download)$/i

/** Files whose name has an extension behind their own, as some editors and programs add it. */
export const secondExtension: Rule = {
  id: 'second-extension',
  grade: 'breaks',
  title: 'Names with a second extension',
  why: 'Servers go by what stands last: a page that ends in “.html.txt” is shown as its source.',
  reads: 'site',
  find: ({ site, pages, names }) => [
    ...site.files.flatMap((file) => {
      const match = twice.exec(file.label)
      if (!match) return []
      const label = file.label.slice(0, -(match[2]!.length + 1))
      return [
        {
          mark: file.label,
          place: inFile(file),
          what: `“${file.label}” ends in .${match[1]} and then in .${match[2]}.`,
          mends: [
            {
              words: `Call it ${label}`,
              change: { kind: 'renameFile' as const, fileId: file.id, label, was: file.label },
            },
          ],
        },
      ]
    }),
    ...pages.flatMap((page) => {
      const stem = names.pages.get(page.id)!.stem
      const isTwice = page.ownName !== null && /\.(html?|txt)$/i.test(stem)
      return isTwice
        ? [{ mark: stem, place: inPage(page), what: `Its own name “${stem}” has an extension already.` }]
        : []
    }),
  ],
}
