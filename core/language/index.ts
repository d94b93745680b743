export { directionOf } from './direction'
export { ownNameOf } from './own-names'
export { languageCalled, languageTag, tagTyped } from './tag'
export { canBe, languageName, languageOfLabels, languageOfText } from './told-language'
