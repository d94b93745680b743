export { type BringingView, bringIn, type BroughtLine, lookAtBringing } from './bringing'
export { type Corrections, deleteOldBringings } from './bringing-rows'
export {
  beginBringing,
  broughtBytes,
  correctBringing,
  noteUnread,
  dropBringing,
  openBrought,
  takeBroughtFile,
  takeBroughtPortions,
  takeBroughtWhole,
  takeBroughtZip,
  waitsForAccount,
} from './taking'
export { endBringers } from './in-thread'
export { type BringingWishes } from './understanding'
