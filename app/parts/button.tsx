import type { ComponentProps } from 'react'

const looks = {
  /** The one thing to do next. */
  go: 'border border-transparent bg-ink text-paper font-semibold hover:opacity-90 disabled:opacity-40',
  plain: 'border border-rule font-medium hover:bg-vellum disabled:opacity-40',
  /** A word in the bar or beside a line. */
  quiet: 'text-quiet hover:text-ink disabled:opacity-40 !px-1 !py-1',
  /** Takes something away. */
  remove: 'border border-rubric text-rubric font-medium hover:bg-rubric-wash disabled:opacity-40',
} as const

type Props = ComponentProps<'button'> & { look?: keyof typeof looks }

/** A button; `look` says how much it wants to be pressed. */
export function Button({ look = 'plain', className = '', type = 'button', ...rest }: Props) {
  return (
    <button
      type={type}
      className={`rounded-[5px] px-3.5 py-2 whitespace-nowrap ${looks[look]} ${className}`}
      {...rest}
    />
  )
}
