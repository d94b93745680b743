import { describe, expect, test } from '@jest/globals'
import Joi from 'joi'
import type { Site } from '#core/site'
import { siteFrom, TextStore } from '../testing'
import { type Change, type ChangeKind, editBy, kinds, questionOf, rightFor, titleOf } from './index'
import { readRequestBy } from './inputs'

/** A kind as anybody would add one: all there is to it in one place. */
interface Shout {
  readonly pageId: string
}
const shout: ChangeKind<Shout> = {
  title: () => 'shouting',
  apply: (site, { pageId }) => ({
    site: {
      ...site,
      pages: site.pages.map((page) =>
        page.id === pageId ? { ...page, label: page.label.toUpperCase() } : page,
      ),
    },
  }),
}

describe('a register of kinds', () => {
  const site: Site = siteFrom('Home\n  Terns\n  Visit', new TextStore())

  test('takes one kind more, which changes and is read from outside like the others', () => {
    const edit = editBy({ ...kinds, shout })
    const { id } = site.pages.find((page) => page.label === 'Terns')!
    const edited = edit(site, { kind: 'shout', pageId: id } as { kind: string })
    expect('site' in edited && edited.site.pages.map((page) => page.label)).toEqual([
      'Home',
      'TERNS',
      'Visit',
    ])
    const register = { shout: { fields: { pageId: Joi.string().required() } } }
    expect(readRequestBy(register, { kind: 'shout', pageId: id })).toEqual({ kind: 'shout', pageId: id })
    expect(readRequestBy(register, { kind: 'shout' })).toHaveProperty('refused')
    expect(readRequestBy(register, { kind: 'whisper', pageId: id })).toHaveProperty('refused')
  })

  test('says of one page and of several what is right for each', () => {
    const [one, two] = site.pages.filter((page) => page.id !== site.homeId).map((page) => page.id)
    const asked = (pageIds: string[]) => {
      const trial = { kind: 'setPageFlag', pageIds, flag: 'trial', value: true } as const
      return [
        trial,
        { kind: 'removePages', pageIds } as const,
        { kind: 'releaseNames', pageIds } as const,
      ].map((change) => questionOf(change, site).what)
    }
    expect(asked([one!])).toEqual([
      '“Terns” leaves the site to be a trial page',
      '“Terns” leaves the site and every menu',
      '“Terns” takes the name of the scheme',
    ])
    expect(asked([one!, two!])).toEqual([
      '2 pages leave the site to be trial pages',
      '2 pages leave the site and every menu',
      '2 pages take the names of the scheme',
    ])
    expect(titleOf({ kind: 'movePages', pageIds: [one!], parentId: null, after: null }, site)).toBe(
      'moving “Terns”',
    )
  })
})

test('what alters all pages is for those who manage the site; each kind says on which side it is', () => {
  const site: Site = siteFrom('Home\n  Terns', new TextStore())
  const [style] = site.files.filter(({ kind }) => kind === 'style')
  const picture = { ...style!, id: 'picture', kind: 'image' as const }
  const rights = (fileId: string) =>
    Object.fromEntries(
      Object.keys(kinds).map((kind) => [
        kind,
        rightFor(
          {
            kind,
            fileId,
            fileIds: [fileId],
            texts: [{ kind: 'file', id: fileId }],
            ofSite: [],
          } as unknown as Change,
          {
            ...site,
            files: [...site.files, picture],
          },
        ),
      ]),
    )
  const managing = [
    'addTemplate',
    'bringIn',
    'dropAddresses',
    'removeTemplate',
    'setHome',
    'setMostWeight',
    'setOutput',
    'setScheme',
    'setSetting',
    'setTemplate',
    'setTemplateField',
  ]
  const of = (told: Record<string, string>, right: string) =>
    Object.keys(told)
      .filter((kind) => told[kind] === right)
      .sort()
  expect(of(rights(picture.id), 'manage')).toEqual(managing)
  // A style sheet is shown by all pages, a picture by those that hold it.
  expect(of(rights(style!.id), 'manage')).toEqual(
    [...managing, 'removeFiles', 'renameFile', 'replaceWords', 'setFile'].sort(),
  )
})
