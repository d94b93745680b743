export { directionOf } from './direction'
export { languageCalled, languageTag, tagTyped } from './tag'
export { canBe, languageName, languageOfLabels, languageOfText } from './told-language'
