/** The style sheet a site starts with, made from a few choices, and colours that can be read. */
export { accentContrast, defaultChoices, type Face, faces, palettesOf, type StyleChoices } from './choices'
export { besideClass, saysBeside, withBeside } from './pictures-beside'
export { choicesOf, starterStyle } from './starter-style'
