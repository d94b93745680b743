export { type FetchPlace, fetchSite, learnPlace, placeOfBringing, sendBackTo } from './looking/fetch-site'
export { compareKnown, lookThere } from './looking/compare'
export {
  cancelDelivery,
  type Delivery,
  findDelivery,
  goOnNow,
  listDeliveries,
  pauseDelivery,
} from './sending/delivery-rows'
export {
  findDestination,
  type KnownDestination,
  listDestinations,
  listKnownDestinations,
} from './places/destination-rows'
export {
  type Destination,
  type DestinationForm,
  type DestinationTest,
  removeDestination,
  saveDestination,
  testDestination,
} from './places/destinations'
export { addPracticeHost, offersPracticeHost } from './places/practice'
export { seeAsVisitors, type SeenSite } from './looking/as-seen'
export { callForDelivery, deliveryJob, deliveryWorker, stopDelivering } from './sending/worker'
export { runDelivery } from './sending/run'
export { askDelivery, type Wishes } from './sending/ask'
export { forgetOldRecords } from './sending/record-rows'
export { askToPutBack, type DeliveryRecord, readRecord, type StateChange } from './sending/records'
export { readSide, type Side, takeThere, zipThere } from './looking/there'
export { byItselfJob, setByItself } from './sending/by-itself'
