import { describe, expect, test } from '@jest/globals'
import { compileTemplate, lookAttributes, parts, setPartAttributes, writtenParts } from '#core/template'
import { choicesOf, nameOfPart } from './part-words'

const only = (source: string) => writtenParts(source)[0]!

describe('what can be chosen of a part', () => {
  test.each(parts.map(({ name }) => name))(
    '%s: each choice is written, read back, and known to templates',
    (name) => {
      const source = `<body>\n<${name}></${name}>\n</body>`
      const choices = choicesOf(only(source))
      // All that a part knows can be chosen, but for what is written in the source alone.
      const chosen = choices.map((one) => one.name)
      const { attributes } = only(source).part
      const left = [...attributes, ...lookAttributes]
        .map((one) => one.name)
        .filter((one) => !chosen.includes(one))
      expect(left.filter((one) => !/^(as|order|mark|.*-class)$/.test(one))).toEqual([])
      for (const { name: about, options, value } of choices) {
        expect(options?.map((one) => one.value) ?? [value]).toContain(value)
        for (const option of options ?? []) {
          const after = setPartAttributes(source, 0, option.sets)
          expect(choicesOf(only(after)).find((one) => one.name === about)?.value).toBe(option.value)
          expect(compileTemplate(after).unknown).toEqual([])
        }
      }
    },
  )

  test('a menu that becomes a line keeps an element for what it is called, and gives it up as a list', () => {
    const source = '<site-menu levels="4" class="m" aria-label="Main"></site-menu>'
    const look = (text: string, value: string) => {
      const choice = choicesOf(only(text)).find(({ name }) => name === 'between')!
      return setPartAttributes(text, 0, choice.options!.find((one) => one.value === value)!.sets)
    }
    const line = look(source, 'line · ')
    expect(line).toBe('<site-menu levels="4" class="m" aria-label="Main" between=" · " as="nav"></site-menu>')
    expect(compileTemplate(line).unknown).toEqual([])
    expect(look(line, 'list')).toBe(source)
    expect(look('<site-menu as="list" id="m"></site-menu>', 'line · ')).toBe(
      '<site-menu as="nav" id="m" between=" · "></site-menu>',
    )
    // What its author wrote is among what can be chosen.
    expect(choicesOf(only(source)).find(({ name }) => name === 'levels')).toMatchObject({ value: '4' })
    const own = choicesOf(only('<site-menu between="~"></site-menu>'))
    expect(own.find(({ name }) => name === 'between')).toMatchObject({ value: 'line~' })
    // Links by themselves are called nothing.
    expect(own.map(({ name }) => name)).not.toContain('aria-label')
    expect(nameOfPart(only('<site-menu of="section"></site-menu>')).name).toBe('a menu of the section')
  })
})
