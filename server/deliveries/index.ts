export { type FetchPlace, fetchSite, learnPlace, placeOfBringing, sendBackTo } from './looking/fetch-site'
export { compareKnown, lookThere } from './looking/compare'
export {
  cancelDelivery,
  type Delivery,
  findDelivery,
  goOnNow,
  isSendingFor,
  listDeliveries,
  pauseDelivery,
} from './sending/delivery-rows'
export { type Destination, findDestination, listDestinations } from './places/destination-rows'
export {
  type DestinationForm,
  type DestinationTest,
  removeDestination,
  saveDestination,
  testDestination,
  addKnownHost,
} from './places/destinations'
export { publicKeyOf } from './places/sign-in'
export { deleteUnusedWebHosts, type KnownHost, listKnownHosts, type SignIn } from './places/web-host-rows'
export { addPracticeHost, offersPracticeHost } from './places/practice'
export { seeAsVisitors } from './looking/as-seen'
export { seenOf, type SeenSite } from './looking/seen-rows'
export { callForDelivery, deliveryJob, deliveryWorker, stopDelivering } from './sending/worker'
export { runDelivery } from './sending/run'
export { askDelivery, type Wishes } from './sending/ask'
export { forgetOldRecords } from './sending/record-rows'
export { askToPutBack, type DeliveryRecord, readRecord, type StateChange } from './sending/records'
export { readSide, type Side, takeThere, zipThere } from './looking/there'
export { byItselfJob, setByItself } from './sending/by-itself'
export { findFolder, findProtocol, type FoundFolder, type FoundProtocol } from './places/find-way'
export { resealSecrets } from './places/reseal'
