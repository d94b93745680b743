/** Stretches of the later text that stayed and that are new. The longest common subsequence decides; labels are short, so the plain table will do. */
export function addedRuns(a: readonly string[], b: readonly string[]): { text: string; added: boolean }[] {
  // Where the earlier text stands whole in the later one, nothing cleverer reads better.
  const whole = b.join('')
  const at = whole.indexOf(a.join(''))
  if (at >= 0) {
    const end = at + a.join('').length
    return [
      { text: whole.slice(0, at), added: true },
      { text: whole.slice(at, end), added: false },
      { text: whole.slice(end), added: true },
    ].filter(({ text }) => text !== '')
  }
  if (a.length * b.length > 250_000) return [{ text: b.join(''), added: false }]
  const width = b.length + 1
  const longest = new Uint16Array((a.length + 1) * width)
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      longest[i * width + j] =
        a[i] === b[j]
          ? longest[(i + 1) * width + j + 1]! + 1
          : Math.max(longest[(i + 1) * width + j]!, longest[i * width + j + 1]!)
  // Letters that two names happen to have in common say nothing of how the one became the other.
  if (2 * longest[0]! < b.length) return [{ text: whole, added: true }]
  const runs: { text: string; added: boolean }[] = []
  const push = (text: string, added: boolean) => {
    const last = runs[runs.length - 1]
    if (last?.added === added) last.text += text
    else runs.push({ text, added })
  }
  for (let i = 0, j = 0; j < b.length;) {
    if (a[i] === b[j]) {
      push(b[j]!, false)
      i++
      j++
    } else if (i < a.length && longest[(i + 1) * width + j]! >= longest[i * width + j + 1]!) i++
    else push(b[j++]!, true)
  }
  return runs
}
