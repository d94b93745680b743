/** References: what they lead to, and how to write them from where they stand. */
export {
  mergePath,
  relativePlain,
  relativeReference,
  resolveReference,
  splitReference,
  type Target,
} from './resolve'
export { placeId } from './place-id'
