import { CopyButton } from '../parts/copy-button'

/** An address that was just made, which is shown this once. */
export function MadeAddress({ address, what }: { address: string; what: string }) {
  return (
    <div role="status" className="mb-4 grid gap-2 border-l-3 border-verdigris bg-verdigris-wash px-3 py-2">
      <p>{what} It is shown this once: what it holds is not kept.</p>
      <p className="flex items-center gap-3">
        <input
          aria-label="The address to hand out"
          className="field min-w-0 flex-1 font-mono text-sm"
          readOnly
          value={address}
          onFocus={(event) => event.currentTarget.select()}
        />
        <CopyButton text={address} words="Copy it" />
      </p>
    </div>
  )
}
