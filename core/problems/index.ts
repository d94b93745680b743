/**
 * Everything that can go wrong and is expected to: a closed set of codes to switch on, each with its
 * sentence for the author, which says what to do next. What a library or a host says is told to the log.
 */
export { type AboutProblem, Problem, type ProblemCode, sentenceOf } from './problem'
