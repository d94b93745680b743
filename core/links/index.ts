/** References: what they lead to, and how to write them from where they stand. */
export {
  fromOldHost,
  mergePath,
  relativePlain,
  referenceLike,
  relativeReference,
  leadsAbove,
  resolveReference,
  splitReference,
  type Target,
} from './resolve'
export { isStanding, standingReferences, targetOf, withoutSteps, writtenFromPage } from './standing'
export { type PlanToken, resolveAll } from './resolve-all'
export { type Base, baseOf, isFixedBase, rebase } from './base-address'
export { type OwnAddress, publicAddressOf, readOwnAddress } from './own-address'
export { isSlip } from './slip'
export { filesNamedIn, isAskedForByName, isProofOfOwner, isSubscribedTo, mayBeProofOfOwner } from './named-in'
export { nearestPath, nearPaths } from './nearest'
