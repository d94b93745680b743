import { cleanLabel } from '#core/plan'
import { elsewhere, refuse } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Sets what all pages share: the site's name, its language, the pattern of titles. */
export interface SetSetting {
  readonly field: 'name' | 'language' | 'titlePattern'
  readonly value: string
  readonly was: string
}

const spoken = { name: 'site name', language: 'language', titlePattern: 'title pattern' } as const

export const setSetting: ChangeKind<SetSetting> = {
  title: ({ field }) => `a new ${spoken[field]}`,
  question: ({ field, value }) => ({
    name: 'Setting',
    what: `The ${spoken[field]} becomes “${value}”`,
    go: 'Use it',
    leave: 'Keep the old one',
  }),
  apply(site, { field, value: typed, was }) {
    const value = cleanLabel(typed)
    if (site[field] !== was && site[field] !== value) return elsewhere('This setting', site[field])
    if (value === '') return refuse('invalid', 'This cannot be empty.')
    return { site: { ...site, [field]: value } }
  },
}
