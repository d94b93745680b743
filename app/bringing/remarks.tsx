import type { BringingView } from '#server/bringing'
import { count } from '../parts/format'

/** Files of which one thing is said, one by one; of more it is said once. */
const oneByOne = 2

/** What there is to know of files that come in; what is true of many is said once. */
export function Remarks({ remarks }: { remarks: BringingView['remarks'] }) {
  const byWhy = new Map<string, string[]>()
  for (const { path, why } of remarks) {
    const paths = byWhy.get(why)
    if (paths) paths.push(path)
    else byWhy.set(why, [path])
  }
  return (
    <ul className="max-h-72 overflow-auto text-sm" tabIndex={0} aria-label="Worth knowing">
      {[...byWhy].map(([why, paths]) =>
        paths.length > oneByOne ? (
          <li key={why} className="py-0.5">
            <details>
              <summary className="cursor-pointer">
                {count(paths.length, 'file')}: <span className="text-quiet">{why}</span>
              </summary>
              <ul className="pl-4 font-mono text-[13px] leading-6">
                {paths.map((path, index) => (
                  <li key={index} className="wrap-anywhere">
                    {path}
                  </li>
                ))}
              </ul>
            </details>
          </li>
        ) : (
          paths.map((path, index) => (
            <li key={`${why} ${index}`} className="py-0.5">
              <span className="font-mono wrap-anywhere">{path}</span>{' '}
              <span className="text-quiet">{why}</span>
            </li>
          ))
        ),
      )}
    </ul>
  )
}
