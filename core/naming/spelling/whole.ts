import anyAscii from 'any-ascii'
import type { Spelling } from './spelling'

export const spelling: Spelling = { spell: anyAscii, load: async () => {}, whenLate: () => () => {} }
