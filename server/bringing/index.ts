export {
  beginBringing,
  type BringingView,
  type BringingWishes,
  bringIn,
  type BroughtLine,
  dropBringing,
  endBringers,
  lookAtBringing,
  takeBroughtFile,
  takeBroughtZip,
} from './bringing'
export { deleteOldBringings } from './bringing-rows'
