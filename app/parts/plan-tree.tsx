import { useMemo } from 'react'
import { nameLabel } from '#core/naming'
import { type SitePlan, walkOutline } from '#core/plan'
import { defaultScheme } from '#core/site'

/** Lines shown at most while typing; the rest is counted. */
const shownLines = 400

/** A plan as the tree it is read as, with the names its pages would get. */
export function PlanTree({ plan, siteName }: { plan: SitePlan; siteName: string }) {
  const lines = useMemo(() => walkOutline(plan.top), [plan])
  return (
    <ol className="py-1">
      <li className="grid grid-cols-[1fr_auto] leading-8">
        <span className="truncate font-semibold">{plan.home.label || siteName}</span>
        <span className="font-mono text-[13px] text-quiet">index.html</span>
      </li>
      {lines.slice(0, shownLines).map(({ node, depth }, index) => (
        <li key={index} className="grid grid-cols-[1fr_auto] gap-4 leading-8">
          <span className={`flex min-w-0 ${node.trial ? 'italic text-quiet' : ''}`}>
            {Array.from({ length: Math.min(depth, 12) }, (_, level) => (
              <span key={level} className="ml-1.5 w-4 shrink-0 border-l border-rule" />
            ))}
            <span className="truncate">{node.label}</span>
          </span>
          <span className="font-mono text-[13px] text-quiet">
            {node.trial ? 'trial page' : nameLabel(node.label, defaultScheme, 'en').name}
          </span>
        </li>
      ))}
      {lines.length > shownLines && <li className="py-2 text-quiet">and {lines.length - shownLines} more</li>}
    </ol>
  )
}
