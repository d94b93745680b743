export {
  bytesFrom,
  getBlobs,
  getFronts,
  getTexts,
  getTextsOften,
  hashOf,
  hashOfPieces,
  missing,
  putBlob,
  putBlobs,
  textFrom,
} from './blobs'
export {
  deleteOldFacts,
  loadFacts,
  loadFileFacts,
  loadPixels,
  loadStyles,
  readAhead,
  readFilesAhead,
} from './facts'
export { endReaders, findWords, readPlanText, replaceWords, tryTemplate } from './reading'
export { lookedThrough, lookThrough, type Scanner } from './looked-through'
export {
  addPortions,
  deleteOldPartials,
  dropPartial,
  isTaken,
  notePartialTaken,
  openPartial,
  pendingBytes,
  receivedBytes,
} from './partial'
export { PostgresContents } from './postgres-store'
export { type ContentStore, type Pieces, portionBytes, type StoredContent } from './store'
export { type PackedFile, unpack, type UnpackLimits } from './unpack'
export { Memory } from './memory'
export { answerContent } from './ranged'
