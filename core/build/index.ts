/** The finished site: every file with its path, and its text when it is asked for. */
export { type Forwarder, forwardersOf } from './forwarders'
export { type Build, buildSite, type BuildSources, type BuiltEntry, type PageTrace } from './build'
export { type LineOrigin, type LinePurpose, originsOfLine, purposeOfLine } from './lines/explain-line'
