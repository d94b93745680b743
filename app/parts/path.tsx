/** A path with its folder quieter than the file, shortened from the left where there is no room. */
export function Path({ path, className = '' }: { path: string; className?: string }) {
  const cut = path.lastIndexOf('/') + 1
  return (
    <span className={`flex min-w-0 font-mono text-[13px] ${className}`} title={path}>
      {/* Laid out from the right, so that what does not fit is lost on the left; the marks keep the slashes in place. */}
      <span className="min-w-0 shrink overflow-hidden text-ellipsis whitespace-nowrap text-faint [direction:rtl]">
        <bdi>{path.slice(0, cut)}</bdi>
      </span>
      <span className="max-w-full shrink-0 overflow-hidden text-ellipsis whitespace-nowrap [direction:rtl]">
        <bdi>{path.slice(cut)}</bdi>
      </span>
    </span>
  )
}
