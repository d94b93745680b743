import { Link } from 'react-router'
import { count, moment } from '../parts/format'

export interface ShownCopy {
  readonly siteId: string
  readonly name: string
  readonly pageCount: number
  readonly writtenCount: number
  readonly deliveryCount: number
  readonly findingCount: number
  readonly graveCount: number
  readonly changedAt: Date
}

/** The copies that were taken of a site that was handed out: how far each has got. */
export function HandedOut({ copies }: { copies: readonly ShownCopy[] }) {
  if (copies.length === 0) return null
  return (
    <div className="mt-4 overflow-x-auto">
      <table className="w-full border-t border-rule text-left">
        <caption className="py-2 text-left text-quiet">
          {count(copies.length, 'copy', 'copies')} taken. You may look at each, and change nothing.
        </caption>
        <thead className="text-sm text-quiet">
          <tr className="border-b border-rule">
            {['Who', 'Pages', 'Steps', 'Findings', 'Deliveries', 'Changed'].map((head, index) => (
              <th
                key={head}
                scope="col"
                className={`py-1.5 font-normal ${index > 0 && index < 5 ? 'pr-6 text-right' : ''}`}
              >
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {copies.map((copy) => (
            <tr key={copy.siteId} className="border-b border-rule">
              <th scope="row" className="py-1.5 font-normal">
                <Link className="link" to={`/sites/${copy.siteId}/plan`}>
                  {copy.name}
                </Link>
              </th>
              <td className="pr-6 text-right tabular-nums">{copy.pageCount}</td>
              <td className="pr-6 text-right tabular-nums">{copy.writtenCount}</td>
              <td className="pr-6 text-right tabular-nums">
                {copy.findingCount}
                {copy.graveCount > 0 && <span className="text-rubric"> ({copy.graveCount} grave)</span>}
              </td>
              <td className="pr-6 text-right tabular-nums">{copy.deliveryCount}</td>
              <td className="text-sm text-quiet" suppressHydrationWarning>
                {moment(copy.changedAt)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
