/** Says where a link of the preview leads that leaves the site, and lets it be followed from there. */
export function LeadsOutside({ address, onClose }: { address: string; onClose: () => void }) {
  const isPage = /^https?:/i.test(address)
  return (
    <p
      role="status"
      className="flex flex-wrap gap-x-4 border-t border-rule bg-lapis-wash px-3 py-1.5 text-sm"
    >
      <span className="min-w-0 wrap-anywhere">
        That leads {isPage ? 'to another site' : 'out of the browser'}:{' '}
        <span className="font-mono text-[13px]">{address}</span>
      </span>
      <a
        className="link"
        href={address}
        rel="noopener noreferrer"
        target={isPage ? '_blank' : undefined}
        onClick={onClose}
      >
        {isPage ? 'Open it in a new tab' : 'Follow it'}
      </a>
      <button type="button" className="link" onClick={onClose}>
        Close
      </button>
    </p>
  )
}
