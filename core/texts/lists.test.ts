import { describe, expect, test } from '@jest/globals'
import { cleanHtml } from './index'

const clean = (html: string) => cleanHtml(html).replace(/\n\s*/g, '')

describe('lists of other programs', () => {
  test('a list that stands in a list by itself goes into the entry before it, and its words stand by themselves', () => {
    expect(
      clean(
        '<ul><li><p role="presentation">One</p></li> <ul><li>Two</li><ol><li>deep</li></ol></ul><li><p>Three</p></li></ul>',
      ),
    ).toBe('<ul><li>One<ul><li>Two<ol><li>deep</li></ol></li></ul></li><li>Three</li></ul>')
    expect(clean('<ul><ul><li>x</li></ul></ul>')).toBe('<ul><li><ul><li>x</li></ul></li></ul>')
  })

  test('paragraphs and lines that begin with bullets are a list, each kind of them a level', () => {
    expect(
      clean('<p>Before</p><p><span>•</span>&nbsp;Built <b>1871</b></p><p>◦ deep</p>\n<p>• Lit</p><p>After</p>'),
    ).toBe('<p>Before</p><ul><li>Built <strong>1871</strong><ul><li>deep</li></ul></li><li>Lit</li></ul><p>After</p>')
    expect(clean('<div>• a</div><div>• b</div>')).toBe('<ul><li>a</li><li>b</li></ul>')
  }) // prettier-ignore

  test.each([
    ['one alone', '<p>• a</p><p>b</p>'],
    ['signs that nothing follows', '<p>·</p><p>·</p>'],
    ['dashes, which people speak with', '<p>– a</p><p>– b</p>'],
    ['a sign within words', '<p>a • b</p><p>c • d</p>'],
  ])('%s stays as it is', (_, html) => {
    expect(clean(html)).toBe(html)
  })

  test('what is deep, and long, ends', () => {
    expect(clean(`${'<ul>'.repeat(90)}<li>x`)).toContain('<li>x</li>')
    expect(clean(`<ul><li>a</li>${'<ul><li>b</li></ul>'.repeat(2_000)}`).match(/<li>b/g)).toHaveLength(2_000)
    const many = clean('<p>• a</p>'.repeat(20_000))
    expect(many.match(/<li>a<\/li>/g)).toHaveLength(20_000)
  })
})

test('what is told by choice stays so', () => {
  expect(clean('<details open class="x"><summary>More <b>here</b></summary><div>text</div></details>')).toBe(
    '<details><summary>More <strong>here</strong></summary><p>text</p></details>',
  )
  expect(clean('<summary>alone</summary>')).toBe('<p>alone</p>')
})
