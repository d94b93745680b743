/** The finished site: every file with its path, and its text when it is asked for. */
export { type Forwarder, forwardersOf } from './forwarders'
export { type Build, buildSite, type BuildSources, type BuiltEntry, type PageTrace } from './build'
export {
  elementAtLine,
  findQuoted,
  type ElementPlace,
  type QuotedElement,
  lineOfElement,
  type LineOrigin,
  type LinePurpose,
  originsOfLine,
  purposeOfLine,
  slotOffset,
} from './lines/explain-line'
