import { pick } from '#core/site'
import { refuse } from '../../edited'
import { type ChangeKind, several } from '../../kind'

/** Puts pages in or out of trial or menus, dates what stands under them, or lets their titles stand by themselves. */
export interface SetPageFlag {
  readonly pageIds: readonly string[]
  readonly flag: 'trial' | 'inMenus' | 'dated' | 'titleAlone'
  readonly value: boolean
}

export const setPageFlag: ChangeKind<SetPageFlag> = {
  inMenus: ({ flag }) => flag !== 'titleAlone',
  title({ pageIds, flag, value }, before) {
    const which = several(before, pageIds)
    switch (flag) {
      case 'trial':
        return value
          ? `making ${which} ${pick(pageIds.length, 'a trial page', 'trial pages')}`
          : `making ${which} part of the site`
      case 'inMenus':
        return value ? `listing ${which} in menus` : `leaving ${which} out of menus`
      case 'dated':
        return value ? `dating the pages of ${which}` : `taking dates from the pages of ${which}`
      case 'titleAlone':
        return value
          ? `leaving the ${pick(pageIds.length, 'title', 'titles')} of ${which} alone`
          : `putting the title pattern around ${which}`
    }
  },
  question({ pageIds, flag, value }, before) {
    const which = several(before, pageIds)
    const [number, them] = [pageIds.length, pick(pageIds.length, 'it', 'them')]
    if (flag === 'dated')
      return {
        name: 'Dates',
        what: `The pages of ${which} ${value ? 'carry' : 'no longer carry'} dates`,
        go: value ? 'Date them' : 'Take the dates away',
        leave: 'Leave them',
      }
    if (flag === 'titleAlone')
      return {
        name: 'Title',
        what: value
          ? `Nothing is put around the ${pick(number, 'title', 'titles')} of ${which}`
          : `The ${pick(number, 'title', 'titles')} of ${which} ${pick(number, 'is', 'are')} as all are`,
        go: `Change ${them}`,
        leave: `Leave ${them}`,
      }
    if (flag === 'trial')
      return {
        name: 'Trial page',
        what: value
          ? `${which} ${pick(number, 'leaves the site to be a trial page', 'leave the site to be trial pages')}`
          : `${which} ${pick(number, 'becomes', 'become')} part of the site`,
        go: value ? `Make ${them} ${pick(number, 'a trial page', 'trial pages')}` : `Put ${them} in the site`,
        leave: `Leave ${them}`,
      }
    return {
      name: 'Menus',
      what: value
        ? `${which} ${pick(number, 'is', 'are')} listed in menus`
        : `${which} ${pick(number, 'is', 'are')} left out of menus`,
      go: value ? `List ${them}` : `Leave ${them} out`,
      leave: value ? `Leave ${them} out` : `Keep ${them} in`,
    }
  },
  apply(site, { pageIds, flag, value }) {
    if (flag === 'trial' && pageIds.includes(site.homeId))
      return refuse('invalid', 'The home page cannot be a trial page.')
    const ids = new Set(pageIds)
    const pages = site.pages.map((page) => {
      if (!ids.has(page.id) || page[flag] === value) return page
      return { ...page, [flag]: value, keptName: flag === 'trial' ? null : page.keptName }
    })
    return { site: { ...site, pages } }
  },
}
