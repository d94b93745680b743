/** Says that a window is of an earlier program than the server, whose parts it may not find any more. */
export function RenewedNotice() {
  return (
    <p role="status" className="flex flex-wrap gap-x-4 border-b border-rule bg-vellum px-5 py-2 text-sm">
      <span>
        Rubricant was renewed since this window was opened. The next view you open is of the new one.
      </span>
      <button type="button" className="link" onClick={() => location.reload()}>
        Load it now
      </button>
    </p>
  )
}
