/** Templates: slots, generated parts and values; one page's data and a template make its HTML. */
export { compileTemplate, type CompiledTemplate, generatedNames, valueNames } from './compile'
export { defaultTemplate, defaultTitlePattern } from './default-template'
export { contextOf, generatedSignature, pageTitle, type SiteContext } from './generated'
export {
  fullTitle,
  homeFileOf,
  outputReference,
  placeReferences,
  renderPage,
  type SlotContent,
} from './render'
export { starterStyle } from './starter-style'
