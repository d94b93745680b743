/** Words of a site wherever they stand, and what is put in their place. */
export { finderOf, mostWords, type Wanted } from './finder'
export { type FoundLine, foundLines, type FoundWords } from './found-lines'
export { likeFound, plainWords } from './put-as'
export { attributesThatSay } from './readable'
export { findIn, replaceIn, type TextKind } from './words'
