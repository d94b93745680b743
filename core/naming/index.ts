/** The naming scheme at work: from labels to the path of every page and file. */
export { needsSpelling } from './ascii'
export { spelling } from '#spelling'
export { clashKey, nameLabel, namelessName, type NamingStep } from './label-name'
export {
  explainName,
  type Nameable,
  type Names,
  namesOf,
  type PageName,
  splitFileName,
  trialFolder,
} from './names'
export { type HostKind, hostKinds, type HostRemark, remarksOfHost, schemeForOldest } from './host-rules'
export { checkDate, type LabelDate, readLabelDate } from './label-date'
export { checkOwnName, checkOwnNameOf, type NameRefusal } from './own-name'
