/** Colours as a page shows them: what its styles make of its text, and whether that can be read. */
export { type Colour, contrast, readableOn, readColour, textContrast, tinted, writeColour } from './contrast'
export type { ColouredPage } from './page-sheets'
export { findPoorContrast, type PoorContrast } from './poor-contrast'
export type { DeclaredAt } from './sheet-rules'
