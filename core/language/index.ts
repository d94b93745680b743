export { directionOf } from './direction'
export { canBe, languageName, languageOfLabels, languageOfText } from './told-language'
