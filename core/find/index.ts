/** Words of a site wherever they stand, and what is put in their place. */
export { finderOf, mostWords, type Wanted } from './finder'
export { type FoundLine, foundLines, type FoundWords } from './found-lines'
export { plainWords } from './put-as'
export { findIn, replaceIn, type TextKind } from './words'
