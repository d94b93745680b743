/** What sites say, held against dictionaries. */
export { mostWordsTold, type SiteSpelling, spellingOf, type SiteWord } from './look'
export { mendWord, type MendingWord } from './mend'
export { endSpellers, nearWords, spellingLimits } from './threads'
