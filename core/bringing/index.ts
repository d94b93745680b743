/** Sites that exist already: understood from their files, and brought in with nothing lost. */
export { type BroughtFile, commonFolder, isPageName, type Remark } from './brought'
export { compareBrought, type ComparedPage } from './compare-brought'
export {
  type BringingChoices,
  type BringingTools,
  type FoundTemplate,
  understand,
  type Understood,
} from './understand'
