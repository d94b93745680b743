/** A name with its first letter in red, as a rubricator would have left it. */
export function Rubric({ name, className = '' }: { name: string; className?: string }) {
  // With the marks above and below it, which are written after it.
  const [first = ''] = /^.\p{M}*/su.exec(name) ?? []
  return (
    <bdi className={`font-serif font-medium tracking-[-0.005em] ${className}`}>
      <span className="text-[1.36em] leading-none text-rubric">{first}</span>
      {name.slice(first.length)}
    </bdi>
  )
}
