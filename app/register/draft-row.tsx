import { Guides } from './guides'
import { LabelInput } from './label-input'

/** A page that is being typed where it would stand. */
export function DraftRow({
  index,
  top,
  tracks,
  depth,
  onDone,
  onCancel,
  onTyping,
  onLevel,
}: {
  index: number
  /** Pixels from the top of the list. */
  top: number
  /** The grid's tracks. */
  tracks: string
  depth: number
  /** The label, and whether another page follows. */
  onDone: (label: string, again: boolean) => void
  onCancel: () => void
  onTyping: (label: string | null) => void
  onLevel: (out: boolean) => void
}) {
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className="absolute inset-x-0 grid h-8 items-center bg-lapis-wash"
      style={{ transform: `translateY(${top}px)`, gridTemplateColumns: tracks }}
    >
      <span role="presentation" />
      <span role="gridcell" className="flex min-w-0 items-stretch">
        <Guides depth={depth} />
        <LabelInput
          name="Label of the new page"
          value=""
          onDone={(label, key) => onDone(label, key === 'Enter')}
          onCancel={onCancel}
          onTyping={onTyping}
          onLevel={onLevel}
        />
      </span>
    </div>
  )
}
