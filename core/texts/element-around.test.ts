import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { applyEdits, parseHtml } from '#core/markup'
import { elementAround, lineElements, wordElements } from './element-around'

type Name = Parameters<typeof elementAround>[2]

/** What comes of a text in which `[` and `]` stand around what is chosen, or `|` at a place; with them where they stand then. */
function put(marked: string, name: Name): string | null {
  const start = marked.search(/[[|]/)
  const isPlace = marked[start] === '|'
  const text = marked.replace(/[[\]|]/g, '')
  const end = isPlace ? start : marked.indexOf(']') - 1
  const made = elementAround(text, { start, end }, name)
  if (!made) return null
  const after = applyEdits(text, made.edits)
  const { chosen } = made
  return chosen.start === chosen.end
    ? `${after.slice(0, chosen.start)}|${after.slice(chosen.start)}`
    : `${after.slice(0, chosen.start)}[${after.slice(chosen.start, chosen.end)}]${after.slice(chosen.end)}`
}

describe('words', () => {
  test('are put into an element, and taken out of it again', () => {
    expect(put('<p>The [last] boat</p>', 'em')).toBe('<p>The <em>[last]</em> boat</p>')
    expect(put('<p>The <em>[last]</em> boat</p>', 'em')).toBe('<p>The [last] boat</p>')
    expect(put('<p>The [<em>last</em>] boat</p>', 'em')).toBe('<p>The [last] boat</p>')
    expect(put('<p>The <em>l|ast boat</em></p>', 'em')).toBe('<p>The l|ast boat</p>')
    expect(put('<p>The [last <a href="x">boat</a>]</p>', 'strong')).toBe(
      '<p>The <strong>[last <a href="x">boat</a>]</strong></p>',
    )
  })
  test('without blanks around them, and as one word where none is chosen', () => {
    expect(put('<p>The[ last ]boat</p>', 'strong')).toBe('<p>The <strong>[last]</strong> boat</p>')
    expect(put('<p>The k|eeper’s boat</p>', 'code')).toBe('<p>The <code>k|eeper’s</code> boat</p>')
    expect(put('<p>The | boat</p>', 'em')).toBe('<p>The <em>|</em> boat</p>')
  })
  test('of several paragraphs are put into one element each, and of halves of others too', () => {
    expect(put('<p>One [two</p>\n<p>three] four</p>', 'em')).toBe(
      '<p>One <em>[two</em></p>\n<p><em>three]</em> four</p>',
    )
    expect(put('<p>One [<b>two three] four</b></p>', 'em')).toBe(
      '<p>One <b><em>[two three]</em> four</b></p>',
    )
    expect(put('[<ul>\n  <li>one</li>\n  <li>two</li>\n</ul>]', 'strong')).toMatch(
      /<li><strong>\[?one<\/strong><\/li>\n {2}<li><strong>two\]?<\/strong><\/li>/,
    )
  })
  test('are not looked for in tags, comments, scripts and lines of source', () => {
    for (const text of ['<p cl|ass="x">', '<!-- a|b -->', '<script>a|b</script>', '<pre>a|b</pre>'])
      expect(put(text, 'em')).toBeNull()
  })
})

describe('paragraphs and headings', () => {
  test('become one another, with all that is said in their tags', () => {
    expect(put('<p id="t" class="x">Ti|des</p>\n<p>Two</p>', 'h2')).toBe(
      '<h2 id="t" class="x">Ti|des</h2>\n<p>Two</p>',
    )
    expect(put('<h2>Ti|des</h2>', 'h2')).toBe('<p>Ti|des</p>')
    expect(put('<p>O[ne</p>\n<h3>T]wo</h3>\n<p>Three</p>', 'h3')).toBe(
      '<h3>O[ne</h3>\n<h3>T]wo</h3>\n<p>Three</p>',
    )
  })
  test('are closed where they were not', () => {
    expect(put('<p>Ti|des\n<p>Two', 'h2')).toBe('<h2>Ti|des</h2>\n<p>Two')
  })
  test('are made of lines that are in none', () => {
    expect(put('Ti|des\n<p>Two</p>', 'h2')).toBe('<h2>Tides</h2>|\n<p>Two</p>')
    expect(put('|', 'h2')).toBe('<h2>|</h2>')
    expect(put('<p>One</p>\n|\n<p>Two</p>', 'h3')).toBe('<p>One</p>\n<h3>|</h3>\n<p>Two</p>')
    expect(put('[One\n\nTwo]', 'p')).toBe('<p>One</p>\n<p>Two</p>|')
  })
})

describe('lists and quotations', () => {
  test('hold paragraphs that stand side by side, indented', () => {
    expect(put('<div>\n  <p>O[ne</p>\n  <p>T]wo</p>\n</div>', 'ul')).toBe(
      '<div>\n  <ul>\n    <li>O[ne</li>\n    <li>T]wo</li>\n  </ul>\n</div>',
    )
    expect(put('<h2>W|ords</h2>', 'blockquote')).toBe('<blockquote>\n  <h2>W|ords</h2>\n</blockquote>')
  })
  test('hold lines', () => {
    expect(put('[One\nTwo]', 'ol')).toBe('<ol>\n  <li>One</li>\n  <li>Two</li>\n</ol>|')
    expect(put('Wo|rds', 'blockquote')).toBe('<blockquote>\n  <p>Words</p>\n</blockquote>|')
    expect(put('<p>One</p>\n|', 'ul')).toBe('<p>One</p>\n<ul>\n  <li>|</li>\n</ul>')
  })
  test('of one kind become the other; what stands apart stays', () => {
    expect(put('<ul>\n  <li>O|ne</li>\n</ul>', 'ol')).toBe('<ol>\n  <li>O|ne</li>\n</ol>')
    expect(put('<p>O[ne</p>\n<table><tr><td>1</table>\n<p>T]wo</p>', 'ul')).toBeNull()
    expect(put('<p>O[ne</p>\n<div><p>T]wo</p></div>', 'ul')).toBeNull()
  })
})

test('whatever is chosen in whatever stands there, its words stay, and nothing is nested that cannot be', () => {
  const piece = fc.constantFrom('<p>', '</p>', '<em>', '</em>', '<ul>', '<li>', '</ul>', '<h2>', '</h2>', '<a href=x>', '</a>', '<div>', '</div>', 'word ', '\n', '  ', '<td>', '<table>', '<!-- c -->', '<br>', '&amp; ') // prettier-ignore
  const words = (html: string) => {
    const found: string[] = []
    const todo = [parseHtml(html, false).root as object]
    for (let node = todo.pop(); node; node = todo.pop()) {
      if ('value' in node && !('tagName' in node) && (node as { nodeName?: string }).nodeName === '#text')
        found.push(String(node.value))
      if ('childNodes' in node) todo.push(...(node.childNodes as object[]).toReversed())
    }
    return found.join('').replace(/\s+/g, '')
  }
  fc.assert(
    fc.property(
      fc.array(piece, { maxLength: 14 }),
      fc.nat(80),
      fc.nat(40),
      fc.constantFrom(...wordElements, ...lineElements),
      (pieces, from, length, name) => {
        const text = pieces.join('')
        const start = Math.min(from, text.length)
        const made = elementAround(text, { start, end: Math.min(text.length, start + length) }, name)
        if (!made) return
        const sorted = [...made.edits].sort((a, b) => a.start - b.start)
        expect(sorted.every((edit, index) => index === 0 || sorted[index - 1]!.end <= edit.start)).toBe(true)
        const after = applyEdits(text, made.edits)
        expect(words(after)).toBe(words(text))
        expect(parseHtml(after, false).errors.length).toBeLessThanOrEqual(
          parseHtml(text, false).errors.length,
        )
        expect(made.chosen.start).toBeLessThanOrEqual(made.chosen.end)
        expect(made.chosen.end).toBeLessThanOrEqual(after.length)
      },
    ),
    { numRuns: 4000 },
  )
})
