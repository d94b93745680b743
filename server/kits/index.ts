export { kitWords } from './layout'
export {
  contentsOf,
  findKit,
  forgetKit,
  keepKit,
  kitToUse,
  listKits,
  type OfferedKit,
  takeKit,
  zipKit,
} from './kits'
export { lookOf } from './look'
