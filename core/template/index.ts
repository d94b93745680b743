/** Templates: slots, generated parts and values; one page's data and a template make its HTML. */
export { compileTemplate, type CompiledTemplate, generatedNames, mostParts, valueNames } from './compile'
export { defaultTemplate, defaultTitlePattern } from './default-template'
export { contextOf, generatedSignature, generatedWeight, pageTitle, type SiteContext } from './generated'
export { fullTitle, homeFileOf, outputReference, renderPage, type SlotContent } from './render'
export { starterStyle } from './starter-style'
export { mostPageBytes, mostSiteBytes, weightRefusal } from './weight'
