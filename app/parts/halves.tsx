import { type ReactNode, useSyncExternalStore } from 'react'
import { Group, Panel, Separator } from 'react-resizable-panels'

/** A window as wide as a phone, or one that is enlarged as far (WCAG 2.2, 1.4.10): what stands side by side stands one above the other. */
const narrow = '(width < 40rem)'

const useIsNarrow = (): boolean =>
  useSyncExternalStore(
    (onChange) => {
      const query = matchMedia(narrow)
      query.addEventListener('change', onChange)
      return () => query.removeEventListener('change', onChange)
    },
    () => matchMedia(narrow).matches,
    () => false,
  )

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
