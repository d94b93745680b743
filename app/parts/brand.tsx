/** A name with its first letter in red, as a rubricator would have left it. */
export function Rubric({ name, className = '' }: { name: string; className?: string }) {
  const [first = '', ...rest] = Array.from(name)
  return (
    <span className={`font-serif font-medium tracking-[-0.005em] ${className}`}>
      <span className="text-[1.36em] leading-none text-rubric">{first}</span>
      {rest.join('')}
    </span>
  )
}
