export { compareKnown, lookThere } from './compare'
export { cancelDelivery, type Delivery, findDelivery, insertDelivery, listDeliveries } from './delivery-rows'
export { findDestination, listDestinations } from './destination-rows'
export {
  type Destination,
  type DestinationForm,
  type DestinationTest,
  removeDestination,
  saveDestination,
  testDestination,
} from './destinations'
export { callForDelivery, deliveryJob, deliveryWorker, stopDelivering } from './worker'
export { runDelivery } from './run'
