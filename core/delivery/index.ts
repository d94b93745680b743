/** Three lists of files (made, last delivered, there now) become a comparison and ordered steps. */
export {
  compareDelivery,
  type ComparedFile,
  type Comparison,
  type FileState,
  filesToSend,
  type Leftover,
  type ListedFile,
  type ManifestFile,
  type RecordedFile,
} from './compare'
export { compareFolder, type FolderComparison, settleFolder } from './folder'
export { type HostTraits, keyAt, sayTraits, tooLongFor } from './host-traits'
export { type FoundPlace, readHostLetter } from './host-letter'
export { isProtocol, noKey, type Protocol, protocols, vouchedKey } from './protocols'
export { kindInStep, removalStep, stepOf } from './order'
export {
  addsSlash,
  type DeliveredFile,
  folderOfHome,
  groupSeen,
  isForVisitors,
  judgeSeen,
  type SeenAnswer,
  type SeenFault,
  type SeenGroup,
} from './as-seen'
export { type ChoiceView, type ChoosableFile, lookAtChoice, mayHideHome } from './choice'
export { ownFolder, type ShownFolder } from './own-folder'
