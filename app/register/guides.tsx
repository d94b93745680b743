/** Thin lines down from each page above. Past a dozen levels they would leave no room for the label. */
export function Guides({ depth }: { depth: number }) {
  return Array.from({ length: Math.min(depth, 12) }, (_, level) => (
    <span key={level} aria-hidden className="ml-[5px] w-[15px] shrink-0 border-l border-rule" />
  ))
}
