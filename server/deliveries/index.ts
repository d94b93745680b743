export { type FetchPlace, fetchSite, learnPlace, placeOfBringing, sendBackTo } from './fetch-site'
export { compareKnown, lookThere } from './compare'
export {
  cancelDelivery,
  type Delivery,
  findDelivery,
  goOnNow,
  insertDelivery,
  listDeliveries,
} from './delivery-rows'
export {
  findDestination,
  type KnownDestination,
  listDestinations,
  listKnownDestinations,
} from './destination-rows'
export {
  type Destination,
  type DestinationForm,
  type DestinationTest,
  removeDestination,
  saveDestination,
  testDestination,
} from './destinations'
export { addPracticeHost, offersPracticeHost } from './practice'
export { seeAsVisitors, type SeenSite } from './as-seen'
export { callForDelivery, deliveryJob, deliveryWorker, stopDelivering } from './worker'
export { runDelivery } from './run'
