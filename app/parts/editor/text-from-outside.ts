import { type ChangeSpec, type Text } from '@codemirror/state'
import { diffLines } from 'diff'

/** Finding the least that differs is worth this long; after it, one stretch is replaced. */
const patienceMs = 40

/** The stretch in which two texts differ, from their first difference to their last. */
function stretchOf(was: string, now: string) {
  const most = Math.min(was.length, now.length)
  let start = 0
  while (start < most && was[start] === now[start]) start++
  let end = 0
  while (end < most - start && was[was.length - 1 - end] === now[now.length - 1 - end]) end++
  return { start, was: was.slice(start, was.length - end), now: now.slice(start, now.length - end) }
}

const changeOf = (at: number, was: string, now: string): ChangeSpec => {
  const { start, ...stretch } = stretchOf(was, now)
  return { from: at + start, to: at + start + stretch.was.length, insert: stretch.now }
}

/**
 * What an editor has to change to show a text that came from elsewhere, in as many small places as differ: whoever writes
 * between them stays where they are.
 */
export function changesTo(doc: Text, value: string): ChangeSpec[] {
  const whole = stretchOf(doc.toString(), value.replace(/\r\n?/g, '\n'))
  const parts = diffLines(whole.was, whole.now, { timeout: patienceMs })
  if (!parts) return [{ from: whole.start, to: whole.start + whole.was.length, insert: whole.now }]
  const changes: ChangeSpec[] = []
  let at = whole.start
  for (let index = 0; index < parts.length; index++) {
    const { value: text, added, removed } = parts[index]!
    const next = parts[index + 1]
    if (removed && next?.added) {
      changes.push(changeOf(at, text, next.value))
      index++
    } else if (removed) changes.push({ from: at, to: at + text.length })
    else if (added) changes.push({ from: at, insert: text })
    if (!added) at += text.length
  }
  return changes
}
