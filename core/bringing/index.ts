/** Sites that exist already: understood from their files, and brought in with nothing lost. */
export { type BroughtFile, commonFolder, isPageName, type Remark } from './brought'
export { compareBrought, type ComparedPage } from './compare-brought'
export type { SamePage } from './joining/beside-site'
export { type Joined, joinSite } from './joining/join-site'
export type { Into } from './joining/written-for'
export type { BringingTools, FoundTemplate } from './lift-pages'
export { type BringingChoices, understand, type Understood } from './understand'
