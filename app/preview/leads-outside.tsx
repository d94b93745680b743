import type { Leaving } from './messages'

/** Says where a link of the preview leads that leaves the site, and lets it be followed from there; or where a form would be sent. */
export function LeadsOutside({ leaving, onClose }: { leaving: Leaving; onClose: () => void }) {
  const isForm = 'form' in leaving
  const address = isForm ? leaving.form : leaving.outside
  const isPage = /^https?:/i.test(address)
  return (
    <p
      role="status"
      className="flex flex-wrap gap-x-4 border-t border-rule bg-lapis-wash px-3 py-1.5 text-sm"
    >
      <span className="min-w-0 wrap-anywhere">
        {isForm
          ? 'Nothing is sent from a preview. Visitors would send this form to '
          : `That leads ${isPage ? 'to another site' : 'out of the browser'}: `}
        <span className="font-mono text-[13px]">{address}</span>
      </span>
      {!isForm && (
        <a
          className="link"
          href={address}
          rel="noopener noreferrer"
          target={isPage ? '_blank' : undefined}
          onClick={onClose}
        >
          {isPage ? 'Open it in a new tab' : 'Follow it'}
        </a>
      )}
      <button type="button" className="link" onClick={onClose}>
        Close
      </button>
    </p>
  )
}
