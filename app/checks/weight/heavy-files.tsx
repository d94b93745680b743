import { kindOfFile, type PageWeight, type WeightKind } from '#core/weighing'
import { useSite } from '../../document/site-context'
import { useFiles } from '../../files/files-context'
import { size } from '../../parts/format'
import { kindLooks } from './weight-bars'

/** The files that a page needs, the heaviest first; of one kind when a stretch of its bar is chosen. */
export function HeavyFiles({
  weight,
  label,
  kind,
}: {
  weight: PageWeight | null
  label: string
  kind: WeightKind | null
}) {
  const { site, names } = useSite()
  const { choose } = useFiles()
  if (!weight) return <p className="border-t border-rule px-7 py-2 text-quiet">“{label}” is a trial page.</p>
  const needed = new Set(weight.files)
  const files = site.files
    .filter((file) => needed.has(file.id) && (kind === null || kindOfFile(file) === kind))
    .sort((a, b) => b.sizeBytes - a.sizeBytes)
  const what = kind === null ? 'all that it needs' : kindLooks[kind].words
  return (
    <div className="max-h-44 overflow-auto border-t border-rule px-7 py-2">
      <p className="mb-1">
        <b className="font-semibold">{label}</b>, {what}
        {kind === 'source' ? `: ${size(weight.bytes.source)}, which its text and its template make` : ''}
        {kind !== 'source' && files.length === 0 ? ': no file.' : ''}
      </p>
      {kind !== 'source' && (
        <ul className="grid gap-x-8 desk:grid-cols-2">
          {files.map((file) => (
            <li key={file.id} className="flex min-w-0 items-baseline gap-3">
              <button type="button" className="link truncate" onClick={() => choose(file.id)}>
                {names.files.get(file.id) ?? file.label}
              </button>
              <span className="ml-auto shrink-0 text-quiet tabular-nums">{size(file.sizeBytes)}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
