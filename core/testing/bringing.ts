import { expect } from '@jest/globals'
import { fileSyntaxOf } from '#core/markup'
import { checkSite } from '#core/site'
import { compileTemplate, templateChoices } from '#core/template'
import { testId, type TextStore } from './index'
import {
  type BringingChoices,
  type BroughtFile,
  compareBrought,
  isPageName,
  understand,
  type Understood,
} from '#core/bringing'

export const asTheyAre: BringingChoices = { scheme: null, lifts: true, generates: true }

const kindOf = (path: string): BroughtFile['kind'] =>
  isPageName(path)
    ? 'page'
    : path.endsWith('.css')
      ? 'style'
      : /\.(png|jpg|gif|svg)$/.test(path)
        ? 'image'
        : path.endsWith('.js')
          ? 'script'
          : 'other'

/** Understands files of a test, by path; their site is whole. */
export function bring(
  files: Record<string, string>,
  store: TextStore,
  { name = '', ...choices }: BringingChoices & { readonly name?: string } = asTheyAre,
): Understood {
  const brought = Object.entries(files).map(([path, text]): BroughtFile => {
    const kind = kindOf(path)
    return {
      path,
      kind,
      hash: store.put(text),
      sizeBytes: text.length,
      ...((kind === 'page' || fileSyntaxOf(path, text.length) !== null) && { text }),
    }
  })
  const tools = {
    newId: testId,
    put: (text: string) => store.put(text),
    sizeOf: (text: string) => text.length,
  }
  const understood = understand(brought, name, choices, tools)
  if ('refusal' in understood) throw new Error(understood.refusal)
  const { site } = understood
  expect(checkSite(site)).toEqual([])
  // What a page holds is shown by the template that it is made with.
  const madeWith = templateChoices(site)
  const hidden = site.pages.flatMap(({ id, label, slots }) => {
    const { source } = site.templates.find((one) => one.id === madeWith.get(id))!
    const shown = new Set(compileTemplate(store.textOf(source)).slots.map(({ name }) => name))
    return Object.keys(slots).flatMap((slot) => (shown.has(slot) ? [] : [`${label}: ${slot}`]))
  })
  expect(hidden).toEqual([])
  return understood
}

/** How each page comes out, by its path. */
export const outcomes = (understood: Understood, store: TextStore) =>
  Object.fromEntries(compareBrought(understood, store).map(({ path, outcome }) => [path, outcome]))
