export { parsePlain } from './parse-plain'
