import { languageName } from '#core/language'
import { Path } from '../parts/path'
import type { NewSiteLine } from './new-site.answer'

/** The pages a plan makes, each with its file, as the register will show them. */
export function NewSiteTree({ lines, more }: { lines: readonly NewSiteLine[]; more: number }) {
  return (
    <ol className="py-1">
      {lines.map(({ label, depth, path, language }, index) => (
        <li key={index} className="grid grid-cols-[1fr_minmax(0,auto)] gap-4 leading-8">
          <span className={`flex min-w-0 ${path === null ? 'text-quiet italic' : ''}`}>
            {Array.from({ length: Math.min(depth, 12) }, (_, level) => (
              <span key={level} className="ml-1.5 w-4 shrink-0 border-l border-rule" />
            ))}
            <span className={`truncate ${depth < 0 ? 'font-semibold' : ''}`}>
              <bdi>{label}</bdi>
              {language !== null && depth === 0 && (
                <span className="ml-3 text-sm text-quiet">in {languageName(language)}</span>
              )}
            </span>
          </span>
          {path === null ? <span className="text-sm text-quiet">trial page</span> : <Path path={path} />}
        </li>
      ))}
      {more > 0 && <li className="py-2 text-quiet">and {more} more</li>}
    </ol>
  )
}
