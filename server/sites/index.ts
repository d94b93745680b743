export { requireRight, roleIn } from './people/access'
export {
  changeRole,
  invite,
  isForMany,
  lookAtInvitation,
  removePerson,
  takeInvitation,
} from './people/people'
export {
  type CopyOf,
  copyOf,
  endInvitation,
  type HandedOut,
  type Invitation,
  listHandedOut,
  listInvitations,
  listPeople,
  type Person,
} from './people/people-rows'
export { bringAddresses, listPublicAddresses, recordAddresses } from './rows/address-rows'
export { buildForPage, filesOfSite, lineOrigins, type SiteFiles, slotLines, textOfWhole } from './build'
export { prepareChange, readChange, readChangeTexts, readTemplateAhead } from './changes/change-request'
export { catchUp, changeSite, previewChange, type Saved } from './changes/changes'
export { stepHistory } from './changes/step-history'
export { createSite } from './create'
export { noteDelivered } from './changes/delivered-addresses'
export { findingsOf } from './findings'
export { findInSite, type FoundInSite, mostFoundTold } from './words/find'
export { listMade, type MadeFile, streamMade } from './made-files'
export { longestSaid } from './words/owners'
export { replaceInSite, type Replacing } from './words/replace'
export {
  endSpellers,
  mendWord,
  type MendingWord,
  nearWords,
  type SiteSpelling,
  type SiteWord,
  spellingOf,
} from './spelling'
export { endLookers, lookAtPages, type LookedSite, looksOf } from './built/built'
export { deleteOldLooks } from './rows/looked-rows'
export { followOutside, type OutsideSummary, outsideOf } from './outside/outside'
export { graphOfSite, needsOfPages, type SentGraph, weightsOfSite } from './picture-of-site'
export type { RippleView } from './changes/ripple-view'
export {
  deleteScheme,
  dismiss,
  listDismissed,
  listSchemes,
  putScheme,
  type SavedScheme,
} from './rows/scheme-rows'
export {
  bringHistory,
  type BroughtVersion,
  daysToThin,
  passAll,
  thinDay,
  undoTitles,
} from './rows/history-rows'
export {
  deleteSite,
  insertSite,
  listSites,
  loadSite,
  revisionOf,
  type SiteOfSomebody,
  type StoredSite,
} from './rows/site-rows'
export { changedSinceZip, type SinceZip, takeZip } from './taken-zips'
export { inTurn, type ZipEntry, zipFiles, zipSite } from './zip'
export { fileKindOf, tellingBytes } from './file-kind'
export { type FileUse, takeFile, takePortions, takeWhole, usesOfFiles } from './files'
export { takeFromOutside } from './outside/take'
export { isInHistory, type Version, type VersionedKind, versionsOf } from './versions'
export { type Answered, type AskedFor } from './changes/answer-change'
export { answerChange, endChangers } from './changes/large-changes'
export { type FoundPlace, findPlaces } from './places'
