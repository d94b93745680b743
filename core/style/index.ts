/** The style sheet a site starts with, made from a few choices, and colours that can be read. */
export { type Colour, contrast, readableOn, readColour, textContrast, writeColour } from './contrast'
export {
  accentContrast,
  choicesOf,
  defaultChoices,
  type Face,
  faces,
  palettesOf,
  starterStyle,
  type StyleChoices,
} from './starter-style'
