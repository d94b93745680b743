import type { ChangeInput } from '../../input'
import type { DropWords } from './drop-words'
import { ownWords } from './keep-words.input'

export const dropWords: ChangeInput<DropWords> = { fields: { words: ownWords } }
