import { select as d3select, zoom as d3zoom, type ZoomBehavior, zoomIdentity } from 'd3'
import { memo, useCallback, useEffect, useRef } from 'react'
import { linkLayers, linkOpacity } from './graph-export'
import { type GraphLayout, labelsAmong, mostLabels } from './graph-layout'

interface Props {
  readonly layout: GraphLayout
  /** What it shows, for a screen reader. */
  readonly label: string
  readonly selectedId: string
  readonly onSelect: (pageId: string) => void
}

/** Labels of neighbours that are shown around a chosen page among very many. */
const mostNeighbours = 24

/** How pages lead to one another, drawn. The wheel and a drag move it; the register chooses for the keyboard. */
export function LinkPicture({ layout, label, selectedId, onSelect }: Props) {
  const svg = useRef<SVGSVGElement>(null)
  const stage = useRef<SVGGElement>(null)
  const behaviour = useRef<ZoomBehavior<SVGSVGElement, unknown>>(null)
  const moved = useRef(false)
  const { extent, dots } = layout
  const fit = useCallback(() => {
    const area = svg.current
    if (!area || !behaviour.current) return
    const { clientWidth: width, clientHeight: height } = area
    const room = dots.length <= mostLabels ? 90 : 60
    const scale = Math.min((width - room * 2) / (extent * 2), (height - 30) / (extent * 2), 1.6)
    const transform = zoomIdentity.translate(width / 2, height / 2).scale(Math.max(scale, 0.1))
    d3select(area).call(behaviour.current.transform, transform)
    moved.current = false
  }, [extent, dots.length])

  useEffect(() => {
    const made = d3zoom<SVGSVGElement, unknown>()
      .scaleExtent([0.1, 12])
      .on('zoom', (event: { transform: { toString(): string }; sourceEvent: Event | null }) => {
        if (event.sourceEvent) moved.current = true
        stage.current?.setAttribute('transform', event.transform.toString())
      })
    behaviour.current = made
    d3select(svg.current!).call(made).on('dblclick.zoom', null)
  }, [])
  useEffect(() => {
    fit()
    const watch = new ResizeObserver(() => !moved.current && fit())
    watch.observe(svg.current!)
    return () => watch.disconnect()
  }, [fit])

  const place = dots.findIndex(({ id }) => id === selectedId)
  const out = layout.links.filter(({ from }) => from === place)
  const back = layout.links.filter(({ to }) => to === place)
  const around = new Set([place, ...out.map(({ to }) => to), ...back.map(({ from }) => from)])
  const near = dots.filter((_, at) => at !== place && around.has(at)).slice(0, mostNeighbours)
  const named =
    layout.labels.length > 0 ? layout.labels : labelsAmong([...dots.filter((_, at) => at === place), ...near])
  const chosen = dots[place]
  return (
    <div className="relative min-h-0">
      <svg ref={svg} role="img" aria-label={label} className="h-full w-full touch-none select-none">
        <g ref={stage}>
          <Ground layout={layout} onSelect={onSelect} />
          <path
            d={back.map(({ path }) => path).join('')}
            fill="none"
            className="stroke-ochre"
            strokeWidth={1.8}
          />
          <path
            d={out.map(({ path }) => path).join('')}
            fill="none"
            className="stroke-lapis"
            strokeWidth={1.8}
          />
          {chosen && (
            <circle
              cx={chosen.x}
              cy={chosen.y}
              r={chosen.radius + 3}
              fill="none"
              className="stroke-lapis"
              strokeWidth={2.5}
            />
          )}
          {named.map(({ id, words, x, y, isLeft }) => (
            <text
              key={id}
              x={x}
              y={y + 4}
              textAnchor={isLeft ? 'end' : 'start'}
              className={`pointer-events-none fill-ink stroke-paper text-[11.5px] [paint-order:stroke] ${id === selectedId ? 'font-bold' : ''}`}
              strokeWidth={3}
            >
              {words}
            </text>
          ))}
        </g>
      </svg>
      <button type="button" className="link absolute right-3 bottom-2 text-sm" onClick={fit}>
        Fit it in
      </button>
    </div>
  )
}

/** What does not change with the chosen page, drawn once. */
const Ground = memo(function Ground({ layout, onSelect }: Pick<Props, 'layout' | 'onSelect'>) {
  return (
    <>
      {layout.rings.map(({ radius, words, isOutside, x, y }) => (
        <g key={words}>
          <circle
            r={radius}
            fill="none"
            className={isOutside ? 'stroke-rubric' : 'stroke-rule'}
            strokeDasharray={isOutside ? '3 5' : undefined}
          />
          <text
            x={x}
            y={y + 4}
            textAnchor="middle"
            strokeWidth={4}
            className={`stroke-paper text-[10.5px] [paint-order:stroke] ${isOutside ? 'fill-rubric' : 'fill-quiet'}`}
          >
            {words}
          </text>
        </g>
      ))}
      {linkLayers(layout.links).map((d, layer) => (
        <path
          key={layer}
          d={d}
          fill="none"
          className="stroke-faint"
          strokeOpacity={linkOpacity(layout.links.length)}
        />
      ))}
      {layout.dots.map(({ id, label, x, y, radius, steps }) => (
        <circle
          key={id}
          cx={x}
          cy={y}
          r={radius}
          className={`cursor-pointer hover:stroke-lapis hover:[stroke-width:3] ${steps === null ? 'fill-rubric' : 'fill-ink'}`}
          onClick={() => onSelect(id)}
        >
          <title>{label}</title>
        </circle>
      ))}
      {layout.sections.map(({ id, words, x, y, isLeft }) => (
        <text
          key={id}
          x={x}
          y={y + 5}
          textAnchor={isLeft ? 'end' : 'start'}
          strokeWidth={4}
          className="fill-ink stroke-paper font-serif text-[15px] [paint-order:stroke]"
        >
          {words}
        </text>
      ))}
    </>
  )
})
