import { cleanLabel } from '#core/plan'
import { elsewhere, gone, refuse } from '../../edited'
import { type ChangeKind, templateCalled } from '../../kind'

/** What is said once for all pages. */
export type SettingField = 'name' | 'language' | 'titlePattern' | 'homeTitlePattern' | 'templateId'

/** Sets what all pages share: the site's name, its language, the patterns of titles, the template. */
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
  templateId: 'template of the site',
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
    const value = cleanLabel(typed)
    if (site[field] !== was && site[field] !== value) return elsewhere('This setting', site[field])
    if (value === '' && field !== 'homeTitlePattern') return refuse('invalid', 'This cannot be empty.')
    if (field === 'templateId' && !site.templates.some((one) => one.id === value)) return gone('The template')
    return { site: { ...site, [field]: value } }
  },
}
