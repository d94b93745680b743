import type { InputHTMLAttributes } from 'react'

interface Props extends InputHTMLAttributes<HTMLInputElement> {
  readonly label?: string
  readonly hint?: string
}

/** Asks for a password of the account that is signed in: the one it has, unless it is said otherwise. */
export function OwnPassword({ label = 'Your password', hint, ...input }: Props) {
  return (
    <label className="block flex-1">
      <span className="text-quiet">{label}</span>
      <input
        className="field"
        type="password"
        name="password"
        autoComplete="current-password"
        required
        maxLength={200}
        {...input}
      />
      {hint && <span className="block text-sm text-quiet">{hint}</span>}
    </label>
  )
}
