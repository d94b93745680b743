import { isAskedForByName, isProofOfOwner } from '#core/links'

const isText = /\.(txt|text|md|markdown|html?)$/i
const ofWordProcessor = /\.(docx?|docm|dotx?|odt|ott|rtf)$/i
/** Larger ones are no proofs. */
const mostBytes = 2_000

/** Whether a file is a document of a word processor that can be read, by its name. */
export const isDocument = (name: string): boolean => ofWordProcessor.test(name)

/** Whether a file is a spreadsheet that can be read, by its name. */
export const isSpreadsheet = (name: string): boolean => /\.(xlsx?|xlsm|xlt|ods)$/i.test(name)

/** Whether a file is rows, which stand in a text as a table. */
export const isOfRows = (name: string): boolean => isSpreadsheet(name) || /\.[ct]sv$/i.test(name)

/** Whether a file is a page of a site, by its name. */
export const isWebPage = (name: string): boolean => /\.html?$/i.test(name) && !isAskedForByName(name)

/** Whether a file is a text that could be a page, by its name: not what others ask for by that. */
export const couldBePage = (name: string): boolean =>
  (isText.test(name) || isDocument(name)) && !isAskedForByName(name)

/** What a file is called in the site: one that proves to a service whose site it is stands at the top, as it is called. */
export async function labelOf(file: File): Promise<string> {
  if (file.size > mostBytes || !/\.(html?|txt|xml)$/i.test(file.name)) return file.name
  const text = await file.text().catch(() => '')
  return isProofOfOwner(file.name, text) ? `/${file.name}` : file.name
}
