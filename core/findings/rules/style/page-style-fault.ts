import type { Rule } from '../../rule'
import { styleFault, styleSentence } from './style-fault'

/** The same in `style` elements and attributes of a page: each thing once, however often it is written. */
export const pageStyleFault: Rule = {
  id: 'page-style-fault',
  grade: 'hinders',
  title: 'Styles within pages that browsers pass over',
  why: styleFault.why,
  reads: 'text',
  find({ styleFaults }, at) {
    const seen = new Set<string>()
    return styleFaults.flatMap((fault) => {
      const mark = `${fault.kind} ${fault.piece}`
      if (seen.has(mark)) return []
      seen.add(mark)
      return [{ mark, place: at(fault), what: styleSentence(fault) }]
    })
  },
}
