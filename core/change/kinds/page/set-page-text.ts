import { checkDate, languageName, tagTyped } from '#core/language'
import { checkOwnNameOf } from '#core/naming'
import { cleanLabel } from '#core/plan'
import type { Page, Site } from '#core/site'
import {
  elsewhere,
  keptOnRelabel,
  labelRefusal,
  noLanguage,
  refuse,
  type Refused,
  updatePage,
} from '../../edited'
import { type ChangeKind, quoted } from '../../kind'

/** Page fields that are texts of their own. */
export type PageTextField = 'label' | 'title' | 'description' | 'ownName' | 'date' | 'language'

/** `was` tells what the author saw when writing. */
export interface SetPageText {
  readonly pageId: string
  readonly field: PageTextField
  readonly value: string | null
  readonly was: string | null
}

const spoken: Readonly<Record<PageTextField, string>> = {
  label: 'label',
  title: 'title',
  description: 'description',
  ownName: 'own name',
  date: 'date',
  language: 'language',
}

export const setPageText: ChangeKind<SetPageText> = {
  inMenus: ({ field }) => field === 'label',
  title: ({ pageId, field }, before) => `a new ${spoken[field]} for ${quoted(before, pageId)}`,
  question({ pageId, field, value, was }, before) {
    const page = quoted(before, pageId)
    switch (field) {
      case 'label':
        return { name: 'Rename', what: `“${was}” becomes “${value}”`, go: 'Rename it', leave: 'Leave it' }
      case 'date':
        return {
          name: 'Date',
          what: value === null ? `${page} takes its date from its label` : `${page} is dated ${value}`,
          go: value === null ? 'Take it from the label' : 'Set the date',
          leave: 'Leave it',
        }
      case 'language':
        return {
          name: 'Language',
          what: `${page} is in ${value === null ? 'the language of its place' : languageName(value)}`,
          go: 'Use this language',
          leave: 'Leave it',
        }
      default:
        return {
          name: 'Name',
          what: value === null ? `${page} follows the scheme` : `${page} gets the name ${value}`,
          go: value === null ? 'Follow the scheme' : 'Use this name',
          leave: 'Leave it',
        }
    }
  },
  apply: (site, change) => updatePage(site, change.pageId, (page) => withPageText(site, page, change)),
}

/** A page of a site with another text in one of its fields. */
export function withPageText(
  site: Site,
  page: Page,
  { field, value: typed, was }: Omit<SetPageText, 'pageId'>,
): Page | Refused {
  const language = field === 'language' && typed ? tagTyped(typed) : null
  // A change that was made already, its answer lost on the way, may be asked for again.
  if (page[field] !== was && page[field] !== (language ?? typed))
    return elsewhere(`This page’s ${spoken[field]}`, page[field])
  if (field === 'ownName') {
    const refusal = typed === null ? null : checkOwnNameOf(site, page.id, typed)
    if (refusal) return refuse('invalid', refusal.reason)
    return { ...page, ownName: typed, keptName: null }
  }
  const value = typed === null ? '' : cleanLabel(typed)
  if (field === 'date') {
    const date = value === '' ? null : checkDate(value)
    if (value !== '' && date === null)
      return refuse('invalid', 'Write a date as 2025, 2025-06 or 2025-06-14.')
    return { ...page, date, keptName: null }
  }
  if (field === 'language') {
    if (value !== '' && language === null) return refuse('invalid', noLanguage)
    return { ...page, language }
  }
  if (field !== 'label') return { ...page, [field]: value === '' ? null : value }
  const unusable = labelRefusal(value)
  if (unusable) return unusable
  return { ...page, label: value, keptName: keptOnRelabel(site, page) }
}
