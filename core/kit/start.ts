import { generateKeyBetween } from 'fractional-indexing'
import { namesOf } from '#core/naming'
import {
  checkSite,
  defaultChecking,
  defaultOutput,
  defaultScheme,
  emptyHash,
  type Hash,
  type Scheme,
  type Site,
} from '#core/site'
import { defaultTitlePattern } from '#core/template'
import type { Kit } from './kit'

/** What is said of a site that a kit does not say. */
export interface KitStart {
  readonly id: string
  readonly name: string
  readonly language: string
  readonly homeLabel: string
  readonly emptyContent: Hash
  readonly newId: () => string
}

/** A site of a home page and nothing else, with all that a kit brings. */
export function startOfKit(kit: Kit, { newId, ...start }: KitStart): Site {
  const ids = new Map(kit.templates.map(({ name }) => [name, newId()]))
  // One that is not there stays wrong, for `checkSite` to find.
  const idOf = (name: string) => ids.get(name) ?? ''
  const homeId = newId()
  return {
    id: start.id,
    name: start.name,
    language: start.language,
    titlePattern: kit.titlePattern,
    homeTitlePattern: kit.homeTitlePattern,
    publicAddress: '',
    homeId,
    templateId: idOf(kit.template),
    output: kit.output,
    checking: defaultChecking,
    ownWords: [],
    scheme: kit.scheme,
    nextSeq: kit.files.length + 2,
    pages: [
      {
        id: homeId,
        parentId: null,
        order: generateKeyBetween(null, null),
        seq: 1,
        label: start.homeLabel,
        ownName: null,
        keptName: null,
        title: null,
        titleAlone: false,
        description: null,
        trial: false,
        inMenus: true,
        dated: false,
        date: null,
        language: null,
        translationSet: null,
        translatedFrom: null,
        addresses: [],
        templateId: null,
        belowTemplateId: null,
        content: start.emptyContent,
        slots: {},
      },
    ],
    files: kit.files.map(({ label, kind, hash, sizeBytes }, index) => ({
      id: newId(),
      kind,
      label,
      seq: index + 2,
      hash,
      sizeBytes,
    })),
    templates: kit.templates.map(({ name, source, basedOn }) => ({
      id: idOf(name),
      name,
      source,
      basedOn: basedOn === null ? null : idOf(basedOn),
    })),
  }
}

/** Why a kit is none that a site could begin with, in a sentence; null when one could. */
export function faultOfKit(kit: Kit): string | null {
  const names = new Set<string>()
  for (const { name } of kit.templates) {
    if (names.has(name)) return `Two of its templates are called “${name}”.`
    names.add(name)
  }
  for (const name of [kit.template, ...kit.templates.flatMap(({ basedOn }) => basedOn ?? [])])
    if (!names.has(name)) return `It names a template “${name}”, which is not in it.`
  let ids = 0
  const newId = () => String(++ids)
  const site = startOfKit(kit, {
    id: '0',
    name: '',
    language: 'en',
    homeLabel: 'Home',
    emptyContent: emptyHash,
    newId,
  })
  if (checkSite(site).length > 0)
    return 'Its templates are based on one another in a circle, or too many times.'
  const { files } = namesOf(site)
  for (const [index, { path }] of kit.files.entries()) {
    const named = files.get(site.files[index]!.id)!
    if (named !== path) return `It has a file at “${path}”, and its scheme puts that one at “${named}”.`
  }
  return null
}

/** A kit of one template and one style sheet, as sites begin with when nothing else is chosen. */
export const plainKit = ({
  template,
  style,
  scheme = defaultScheme,
}: {
  readonly template: Hash
  readonly style: { readonly hash: Hash; readonly sizeBytes: number }
  readonly scheme?: Scheme
}): Kit => ({
  name: 'Plain',
  about: '',
  scheme,
  titlePattern: defaultTitlePattern,
  homeTitlePattern: '',
  output: defaultOutput,
  template: 'Shared template',
  templates: [{ name: 'Shared template', source: template, basedOn: null }],
  files: [
    {
      label: 'site.css',
      kind: 'style',
      path: `${scheme.folders.style && `${scheme.folders.style}/`}site.css`,
      ...style,
    },
  ],
  picture: null,
})
