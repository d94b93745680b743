import type { ReactNode } from 'react'

interface Props {
  readonly className?: string
  readonly children: ReactNode
}

/** A sentence that says what went wrong; read out at once. */
export const Refusal = ({ className = '', children }: Props) => (
  <p role="alert" className={`border-l-3 border-rubric bg-rubric-wash px-3 py-2 ${className}`}>
    {children}
  </p>
)

/** A sentence that says what came about. */
export const Outcome = ({ className = '', children }: Props) => (
  <p role="status" className={`border-l-3 border-verdigris bg-verdigris-wash px-3 py-2 ${className}`}>
    {children}
  </p>
)

/** A sentence that asks for care, and ends nothing. */
export const Caution = ({ className = '', children }: Props) => (
  <p className={`border-l-3 border-ochre bg-vellum px-3 py-2 ${className}`}>{children}</p>
)
