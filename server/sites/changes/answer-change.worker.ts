import { answerHere } from './answer-change'

/** Makes a change of many pages in a thread of its own, with connections of its own. */
export default answerHere
