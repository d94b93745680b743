/** Fetched apart: it brings the parser. */
export { purposeOfLine } from '#core/build'
