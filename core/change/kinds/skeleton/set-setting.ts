import { tagTyped } from '#core/language'
import { publicAddressOf } from '#core/links'
import { cleanLabel } from '#core/plan'
import { elsewhere, gone, noLanguage, refuse } from '../../edited'
import { type ChangeKind, templateCalled } from '../../kind'

/** What is said once for all pages. */
export type SettingField =
  'name' | 'language' | 'titlePattern' | 'homeTitlePattern' | 'publicAddress' | 'templateId'

/** Sets what all pages share: the site's name, its language, the patterns of titles, its address, the template. */
export interface SetSetting {
  readonly field: SettingField
  readonly value: string
  readonly was: string
}

const spoken: Readonly<Record<SettingField, string>> = {
  name: 'site name',
  language: 'language',
  titlePattern: 'title pattern',
  homeTitlePattern: 'title pattern of the home page',
  publicAddress: 'address of the site',
  templateId: 'template of the site',
}

const mayBeEmpty: ReadonlySet<SettingField> = new Set(['homeTitlePattern', 'publicAddress'])

/** What was typed as it is kept; null for an address or a language that is none. */
function keptValue(field: SettingField, typed: string): string | null {
  if (field === 'publicAddress') return typed.trim() === '' ? '' : publicAddressOf(typed)
  return field === 'language' ? tagTyped(typed) : cleanLabel(typed)
}

export const setSetting: ChangeKind<SetSetting> = {
  manages: true,
  title: ({ field }) => `a new ${spoken[field]}`,
  question: ({ field, value }, before) => ({
    name: 'Setting',
    what: `The ${spoken[field]} becomes ${field === 'templateId' ? templateCalled(before, value) : `“${value}”`}`,
    go: 'Use it',
    leave: 'Keep the old one',
  }),
  apply(site, { field, value: typed, was }) {
    const value = keptValue(field, typed)
    if (value === null)
      return refuse(
        'invalid',
        field === 'language'
          ? noLanguage
          : 'This is no address of a site: it begins with https:// and names a host.',
      )
    if (site[field] !== was && site[field] !== value) return elsewhere('This setting', site[field])
    if (value === '' && !mayBeEmpty.has(field)) return refuse('invalid', 'This cannot be empty.')
    if (field === 'templateId' && !site.templates.some((one) => one.id === value)) return gone('The template')
    return { site: { ...site, [field]: value } }
  },
}
