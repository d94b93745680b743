export { firstBytes, rangeAsked } from './byte-range'
export { config, readConfig, withSecretsOfFiles } from './config'
export { deadline } from './deadline'
export { eachOf, portionsOf } from './each-of'
export {
  announce,
  announceSoon,
  type DeliveryEvent,
  listen,
  type Presence,
  type SiteEvent,
  stopListening,
} from './events'
export { callJob, type Job, startJobs, stopJobs } from './jobs'
export {
  countRequest,
  forgive,
  giveBack,
  limitDestinationTests,
  limitFetching,
  limitFollowing,
  limitReadingBack,
  take,
  takeWithGrowingDelay,
  tooMany,
} from './limits'
export { inRequest, log, noteAccount, noteEvent } from './log'
export { migrate } from './migrate'
export { dial, reachableAddresses } from './outgoing'
export { askOutside, type OpenAnswer, openOutside, type OutsideAnswer } from './outgoing-http'
export {
  ConstraintError,
  databaseError,
  DatabaseError,
  many,
  maybeOne,
  pool,
  type Queryable,
  transaction,
} from './pool'
export { deleteOldLimits, deleteOldRequests, noteRequest, requestMade } from './requests'
export { isSigned, seal, sign, unseal, resealWith } from './secrets'
export { notFound, parseJson, storable } from './http'
export { threadsOf } from './threads'
