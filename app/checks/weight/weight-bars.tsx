import { scaleLinear, stack } from 'd3'
import { lines, type PageWeight, secondsOn, type WeightKind, weightKinds } from '#core/weighing'
import { useSite } from '../../document/site-context'
import { size } from '../../parts/format'
import { LongList } from '../../parts/long-list'

/** A stretch of a page's bar. */
export interface Stretch {
  readonly pageId: string
  readonly kind: WeightKind
}

/** What a kind is called, and how it is drawn: told apart by a pattern of light and dark, not by hue alone. */
export const kindLooks: Readonly<Record<WeightKind, { readonly words: string; readonly fill: string }>> = {
  source: { words: 'source', fill: 'bg-ink' },
  styles: { words: 'style sheets', fill: 'bg-lapis' },
  scripts: { words: 'scripts', fill: 'bg-ochre' },
  pictures: { words: 'pictures', fill: 'bg-verdigris' },
  fonts: { words: 'typefaces', fill: 'bg-rubric' },
  other: { words: 'other files', fill: 'bg-faint' },
}

const stacked = stack<PageWeight, WeightKind>()
  .keys(weightKinds)
  .value((weight, kind) => weight.bytes[kind])

/** Every page as one bar, the heaviest first, cut by what it needs. */
export function WeightBars({
  weights,
  limit,
  selectedId,
  chosen,
  onChoose,
}: {
  weights: readonly PageWeight[]
  limit: number
  selectedId: string
  chosen: Stretch | null
  onChoose: (stretch: Stretch) => void
}) {
  const { tree } = useSite()
  const most = Math.max(weights[0]?.total ?? 0, 1)
  const along = scaleLinear([0, most], [0, 100])
  const series = stacked(weights)
  const shown = weightKinds.filter((kind) => weights.some(({ bytes }) => bytes[kind] > 0))
  return (
    <div className="grid min-h-0 grid-rows-[auto_1fr]">
      <div className="flex flex-wrap items-baseline gap-x-5 px-7 pb-2 text-sm text-quiet">
        {shown.map((kind) => (
          <span key={kind} className="flex items-center gap-1.5">
            <span aria-hidden className={`inline-block h-3 w-3 ${kindLooks[kind].fill}`} />
            {kindLooks[kind].words}
          </span>
        ))}
        <span className="ml-auto grid grid-cols-[5rem_4rem_4rem] gap-x-3 text-right whitespace-nowrap max-sm:grid-cols-[4rem_4rem]">
          <span>in all</span>
          <span title={lines.slow.name}>slow line</span>
          <span className="max-sm:hidden" title={lines.fast.name}>
            fast line
          </span>
        </span>
      </div>
      <LongList label="Pages by weight" count={weights.length} rowHeight={34} className="min-h-0 px-7">
        {(index) => {
          const weight = weights[index]!
          const { pageId, total } = weight
          return (
            <div
              className={`grid h-[34px] grid-cols-[9.5rem_1fr_5rem_4rem_4rem] items-center max-sm:grid-cols-[minmax(0,1fr)_3rem_4rem_4rem] gap-x-3 border-b border-rule ${pageId === selectedId ? 'bg-lapis-wash' : ''}`}
            >
              <span className="truncate">{tree.byId.get(pageId)?.label}</span>
              <span className="relative block h-[18px]">
                {series.map((one) => {
                  const [from, to] = one[index]!
                  if (to === from) return null
                  const isChosen = chosen?.pageId === pageId && chosen.kind === one.key
                  return (
                    <button
                      key={one.key}
                      type="button"
                      className={`absolute inset-y-0 border-r border-paper ${kindLooks[one.key].fill} ${isChosen ? 'outline-2 outline-lapis' : ''}`}
                      style={{ left: `${along(from)}%`, width: `${Math.max(along(to - from), 0.6)}%` }}
                      title={`${kindLooks[one.key].words}: ${size(to - from)}`}
                      aria-label={`${tree.byId.get(pageId)?.label}, ${kindLooks[one.key].words}: ${size(to - from)}`}
                      onClick={() => onChoose({ pageId, kind: one.key })}
                    />
                  )
                })}
                {limit < most && (
                  <span
                    aria-hidden
                    className="absolute -inset-y-2 border-l border-dashed border-rubric"
                    style={{ left: `${along(limit)}%` }}
                  />
                )}
              </span>
              <span className={`text-right tabular-nums ${total > limit ? 'font-semibold text-rubric' : ''}`}>
                {size(total)}
              </span>
              {[lines.slow, lines.fast].map((line) => (
                <span
                  key={line.name}
                  className={`text-right text-quiet tabular-nums ${line === lines.fast ? 'max-sm:hidden' : ''}`}
                >
                  {secondsOn(line, weight).toFixed(1)} s
                </span>
              ))}
            </div>
          )
        }}
      </LongList>
    </div>
  )
}
