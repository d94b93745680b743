import type { ReactNode } from 'react'
import { Group, Panel, Separator } from 'react-resizable-panels'
import { useIsNarrow } from './use-is-narrow'

interface Props {
  /** What the first is called where its size is changed. */
  readonly of: string
  /** The share of the first, in percent, and how many pixels each needs at least. */
  readonly share: number
  readonly least: readonly [number, number]
  readonly children: readonly [ReactNode, ReactNode]
}

/** Two halves of a view, as large as whoever works in it makes them. */
export function Halves({ of, share, least, children: [first, second] }: Props) {
  const isNarrow = useIsNarrow()
  return (
    <Group orientation={isNarrow ? 'vertical' : 'horizontal'} className="min-h-0">
      <Panel defaultSize={`${share}%`} minSize={isNarrow ? 120 : least[0]}>
        {first}
      </Panel>
      <Separator
        aria-label={`${isNarrow ? 'Height' : 'Width'} of the ${of}`}
        className={`bg-rule hover:bg-lapis ${isNarrow ? 'h-px' : 'w-px'}`}
      />
      <Panel minSize={isNarrow ? 120 : least[1]}>{second}</Panel>
    </Group>
  )
}
