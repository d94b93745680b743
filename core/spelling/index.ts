/** What a site says, held against dictionaries. */
export { type Dictionary, dictionaryOf } from './dictionary'
export { longestTold } from './known'
export { dictionariesFor, type DictionaryName, dictionaryNames } from './languages'
export { ownWords } from './own-words'
export { Speller, type TextSpelling, type UnknownWord } from './unknown-words'
