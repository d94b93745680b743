import { tableOf } from '#core/site'
import type { Rule } from '../../rule'

/** What is written today in the place of what the standard has dropped (HTML §16.2). */
const today = tableOf<string>({
  acronym: 'Write <abbr>.', applet: 'No browser runs it any more.', big: 'Give the text a class, and its size in the style sheet.',
  center: 'Give it a class, and “text-align: center” in the style sheet.', dir: 'Write <ul>.',
  font: 'Give the text a class, and face, size and colour in the style sheet.',
  frame: 'Put what all pages share into a template.', frameset: 'Put what all pages share into a template.',
  marquee: 'Let the text stand still.', nobr: 'Write “white-space: nowrap” in the style sheet.', noframes: 'Without frames nobody needs it.',
  strike: 'Write <s>, or <del> for what has been taken out.', tt: 'Write <code>, <kbd> or <samp>.', xmp: 'Write <pre>.', plaintext: 'Write <pre>.', listing: 'Write <pre>.',
}) // prettier-ignore

/** Elements and attributes that the standard has dropped. */
export const droppedMarkup: Rule = {
  id: 'dropped-markup',
  grade: 'detail',
  title: 'Markup that the standard has dropped',
  why: 'Browsers still draw it as they like, and looks that stand in each page have to be changed in each page.',
  reads: 'text',
  find({ notes }, at) {
    const seen = new Map<string, number>()
    return notes.flatMap((note) => {
      if (note.kind !== 'obsolete') return []
      const times = seen.get(note.name) ?? 0
      seen.set(note.name, times + 1)
      const [tag, attribute] = note.name.split(' ')
      const what = attribute
        ? `“${attribute}” on <${tag}> is looks. Write it in the style sheet.`
        : `<${tag}> is no longer part of HTML. ${today[tag!] ?? ''}`.trim()
      return [{ mark: `${note.name} ${times}`, place: at(note), what }]
    })
  },
}
