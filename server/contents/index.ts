export { bytesFrom, collectBlobs, getBlobs, getTexts, hashOf, putBlob, putBlobs, textFrom } from './blobs'
export { deleteOldFacts, loadFacts, loadStyles, readAhead } from './facts'
export { endReaders, readPlanText, tryTemplate } from './reading'
