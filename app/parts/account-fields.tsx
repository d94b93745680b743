/** The fields that accounts are asked for, with what browsers and password managers need to know of them. */

export const EmailField = () => (
  <label className="block">
    E-mail address
    <input className="field" type="email" name="email" autoComplete="username" required maxLength={200} />
  </label>
)

interface PasswordProps {
  readonly label: string
  readonly name: string
  /** Said below a password that is chosen; null for one that is known already. */
  readonly hint: string | null
}

export const PasswordField = ({ label, name, hint }: PasswordProps) => (
  <div>
    <label className="block">
      {label}
      <input
        className="field"
        type="password"
        name={name}
        autoComplete={hint === null ? 'current-password' : 'new-password'}
        required
        minLength={hint === null ? undefined : 10}
        maxLength={200}
        aria-describedby={hint === null ? undefined : `${name}-hint`}
      />
    </label>
    {hint !== null && (
      <span id={`${name}-hint`} className="block text-sm text-quiet">
        {hint}
      </span>
    )}
  </div>
)
