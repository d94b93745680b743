import { describe, expect, test } from '@jest/globals'
import { EditorState } from '@codemirror/state'
import fc from 'fast-check'
import { changesTo } from './text-from-outside'

describe('a text from elsewhere', () => {
  const line = fc.constantFrom('<p>Terns</p>', '', 'nest', 'on the skerry', '</div>')
  const text = fc.array(line, { maxLength: 12 }).map((lines) => lines.join('\n'))

  test('is what the editor shows after the changes, whatever it showed before', () => {
    fc.assert(
      fc.property(text, text, (was, now) => {
        const state = EditorState.create({ doc: was })
        expect(state.update({ changes: changesTo(state.doc, now) }).newDoc.toString()).toBe(now)
      }),
    )
  })

  test('leaves the cursor where it is between two places that changed', () => {
    const was = '<h1>One</h1>\n<p>Here I write.</p>\n<p>Last</p>\n'
    const now = '<h1>The first</h1>\n<p>Here I write.</p>\n<p>Last of all</p>\n'
    const state = EditorState.create({ doc: was, selection: { anchor: was.indexOf(' write') } })
    const after = state.update({ changes: changesTo(state.doc, now) }).state
    expect(after.selection.main.head).toBe(now.indexOf(' write'))
  })
})
