/** A box that is ticked, and the words beside it. */
export function Check({
  checked,
  onChange,
  words,
}: {
  checked: boolean
  onChange: (checked: boolean) => void
  words: string
}) {
  return (
    <label className="flex items-start gap-2 text-sm">
      <input
        type="checkbox"
        className="mt-0.5 accent-lapis"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {words}
    </label>
  )
}
