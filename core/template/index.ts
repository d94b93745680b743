/** Templates: slots, generated parts and values; one page's data and a template make its HTML. */
export { compileTemplate, type CompiledTemplate, mostParts, type Unknown, valueNames } from './compile'
export { contextOf, type SiteContext } from './context'
export { defaultTemplate, defaultTitlePattern } from './default-template'
export { generatedSignature, generatedWeight, pageTitle } from './generated'
export { type GeneratedPart, parts } from './parts'
export { fullTitle, homeFileOf, outputReference, renderPage, type SlotContent } from './render'
export { starterStyle } from './starter-style'
export { mostPageBytes, mostSiteBytes, weightRefusal } from './weight'
