/** A path with its folder quieter than the file, shortened from the left where there is no room. */
export function Path({ path, className = '' }: { path: string; className?: string }) {
  const cut = path.lastIndexOf('/') + 1
  return (
    // Laid out from the right, so that what does not fit is lost on the left; the marks keep the slashes in place.
    <span
      className={`block min-w-0 overflow-hidden text-left font-mono text-[13px] text-ellipsis whitespace-nowrap [direction:rtl] ${className}`}
      title={path}
    >
      <bdi>
        <span className="text-faint">{path.slice(0, cut)}</span>
        {path.slice(cut)}
      </bdi>
    </span>
  )
}
