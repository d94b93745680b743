import { binaryParts } from './parts'
import { tokensIn } from './tokens'
import type { Found } from '../found'
import { readTokens } from '../rich-text'

export { rowsOfWorkbook } from './workbook'

/**
 * Reads a document of a word processor's binary form: its properties are the words of RTF, which is told by them.
 * @throws Problem `document-locked`, RangeError for one that is damaged
 */
export const readBinary = (bytes: Uint8Array): Found => readTokens(tokensIn(binaryParts(bytes)))
