import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { starterStyle } from '#core/style'
import { defaultTemplate } from '#core/template'
import { anySign } from '../testing/signs'
import { faultsInText, type TypedAs } from './index'

const found = (text: string, as: TypedAs) =>
  faultsInText(text, as).map(({ start, end, words }) => [text.slice(start, end), words] as const)

describe('what is wrong in a text while it is typed', () => {
  test('of a page is told where it stands', () => {
    expect(found('<p id="a">x</p>\n<p id="a">y</p>', 'html')).toEqual([
      ['id="a"', 'The id “a” is given twice: a link to it leads to the first.'],
    ])
    expect(found('<p>x</b></p>', 'html')).toEqual([['</b>', '“</b>” closes nothing that is open.']])
    expect(found('<p>fine</p>', 'html')).toEqual([])
  })

  test('of a template are unknown words, slots of one name, and errors in what it fills in', () => {
    expect(found(defaultTemplate, 'template')).toEqual([])
    expect(found('<!DOCTYPE html><title>{pag}</title><slot></slot><site-men></site-men><slot></slot>', 'template').map(([text]) => text)).toEqual(['pag', 'site-men', '<slot></slot>']) // prettier-ignore
    expect(found('<template slot="content"><p>x</b></p></template>', 'template').map(([text]) => text)).toEqual(['</b>']) // prettier-ignore
    expect(found('<template slot="content">\n  <div><slot></slot></div>\n</template>\n', 'template')).toEqual(
      [],
    )
  })

  test('of a template are values that a part does not know, and what stands beside what fills its slots', () => {
    expect(found('<!DOCTYPE html><site-menu levels="12" own="omitt" of="section"></site-menu>', 'template')).toEqual([['omitt', '“omitt” is no value that this part knows; it knows mark, omit.']]) // prettier-ignore
    const beside =
      '<!-- a note -->\n<p>lost</p>\n<template slot="content"><slot></slot></template>\nlost too\n'
    expect(found(beside, 'template').map(([text]) => text)).toEqual(['<p>', 'lost too'])
  })

  test('of a style sheet are properties and values that CSS does not know', () => {
    expect(found(starterStyle(), 'css')).toEqual([])
    expect(
      found('p { colour: red; color: rad 3; width: var(--x); -webkit-thing: 1; --own: {} }', 'css'),
    ).toEqual([
      ['colour', '“colour” is no property of CSS.'],
      ['color: rad 3', 'This is no value that “color” can have.'],
    ])
    expect(found('p { color red }', 'css')).toHaveLength(1)
  })

  test('is told of any text, within it', () => {
    fc.assert(
      fc.property(fc.constantFrom<TypedAs>('html', 'template', 'css'), fc.string({ unit: anySign, maxLength: 200 }), (as, text) => {
        for (const { start, end } of faultsInText(text, as)) {
          expect(start).toBeGreaterThanOrEqual(0)
          expect(end).toBeLessThanOrEqual(text.length)
          expect(start).toBeLessThanOrEqual(end)
        }
      }),
    )
  }) // prettier-ignore
})
