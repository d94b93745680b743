import { expect, test } from '@playwright/test'
import { editor, makeSite, openView, signUp, write } from './support'

test('the browser looks at the spelling of words, in the language of the page, and at nothing that is no word', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  const text =
    '<!-- nott --><p class="wrds" title="Seen wehn">Tehre &eacute; <code>fnord()</code> <span lang="de">Leuchttrum</span></p><style>.abcd { top: 0 }</style>'
  await write(page, 'Visit', text)
  const looked = await editor(page, 'Visit').evaluate((content) => {
    const words: string[] = []
    const walk = (node: Node, isLooked: boolean, language: string) => {
      if (node instanceof Text) {
        for (const word of isLooked ? (node.data.match(/[a-z]{3,}/gi) ?? []) : []) words.push(`${word} ${language}`)
        return
      }
      const one = node as HTMLElement
      const own = one.getAttribute('spellcheck')
      for (const child of one.childNodes)
        walk(child, own === null ? isLooked : own === 'true', one.getAttribute('lang') ?? language)
    }
    walk(content, false, '')
    return words
  }) // prettier-ignore
  expect(looked).toEqual(['Seen en', 'wehn en', 'Tehre en', 'Leuchttrum de'])
})
